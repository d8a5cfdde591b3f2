/** The register of rescue media. */
package app.granary.server.rescue;
