/**
 * Frames: each chunk of disk compressed on its own, so that a frame can be decoded, checked and lost alone. Formats: zstd (RFC 8878), gzip
 * (RFC 1952), xz, and none. Nothing is null. Start with {@link app.granary.engine.codec.Codec}.
 */
package app.granary.engine.codec;
