/** The shelf as people look at it: images, each with its copies. */
package app.granary.server.shelf;
