/**
 * Draws chunks of a disk by chance and compresses them as they will be, to tell how big the image will be. Start with
 * {@link app.granary.engine.sample.SizeSampler}.
 */
package app.granary.engine.sample;
