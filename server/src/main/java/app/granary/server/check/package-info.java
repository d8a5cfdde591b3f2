/** Checks of copies: holding them against their digests, decoding them, restoring them onto scratch. */
package app.granary.server.check;
