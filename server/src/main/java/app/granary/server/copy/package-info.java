/** Further copies of images, each proven by its digests. */
package app.granary.server.copy;
