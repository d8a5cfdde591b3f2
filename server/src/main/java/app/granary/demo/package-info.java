/**
 * A made-up office to try Granary with: stand-ins for devices, a past, and switches that make things go wrong. The server runs without it.
 */
package app.granary.demo;
