/** Images laid out for optical discs. */
package app.granary.server.disc;
