/** Images made, with the evidence of every check. */
package app.granary.server.image;
