/**
 * Where an image may go. Every rule gives: holds or not, the figures it compared, a sentence. A destination is fit only when all hard rules
 * hold. Nothing is null. Start with {@link app.granary.core.destination.DestinationRules}.
 */
package app.granary.core.destination;
