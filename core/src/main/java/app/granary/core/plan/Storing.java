package app.granary.core.plan;

import java.util.OptionalLong;

/**
 * How an image is stored.
 *
 * @param codec      a codec's word: {@code "none"} (the raw disk), {@code "stored"} (used blocks as they are), {@code "gzip"}, {@code
 * "zstd"} or {@code "xz"}
 * @param level      one the codec has
 * @param splitBytes longest part; empty for one file
 * @param allBlocks  free blocks too
 * @param keepSwap   page files, hibernation files and swap as they are, instead of as zeros
 * @param encrypted  with a passphrase that is asked for and kept nowhere
 */
public record Storing(String codec, int level, OptionalLong splitBytes, boolean allBlocks, boolean keepSwap, boolean encrypted) {
}
