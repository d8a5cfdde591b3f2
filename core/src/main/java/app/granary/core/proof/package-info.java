/**
 * How far an image has been proven: a ladder of checks, each including the ones below it. Nothing is null. Start with
 * {@link app.granary.core.proof.ProofLevel}.
 */
package app.granary.core.proof;
