/**
 * Destinations: what is at hand, what was last known of the others, where each lies and how its room goes. Start with {@code Destinations}.
 */
package app.granary.server.destination;
