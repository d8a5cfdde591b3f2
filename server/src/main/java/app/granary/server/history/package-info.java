/** The past of a made-up office, written down through the same code as real use. */
package app.granary.server.history;
