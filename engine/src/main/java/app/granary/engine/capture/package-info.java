/**
 * Reads a disk into a bag, chunk by chunk, on all processors, with a fixed set of buffers. Start with
 * {@link app.granary.engine.capture.Capture}.
 */
package app.granary.engine.capture;
