/**
 * What a run may touch. A run claims every device it reads, writes or keeps images on, before it touches the first; while it holds them no
 * other run gets at them in a way that would spoil either. Start at {@link app.granary.core.claim.Claims}. Nothing here is null.
 */
package app.granary.core.claim;
