/**
 * Proves an image: that it is all there, that its bytes match, that it decodes. Start with {@link app.granary.engine.verify.Verification}.
 */
package app.granary.engine.verify;
