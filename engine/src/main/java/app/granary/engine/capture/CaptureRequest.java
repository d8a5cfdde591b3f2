package app.granary.engine.capture;

import app.granary.core.disk.DiskIdentity;
import app.granary.engine.bag.ImageName;
import app.granary.engine.codec.Codec;
import java.util.OptionalLong;

/**
 * What to make of a disk.
 *
 * @param name       the image's name
 * @param codec      how frames are compressed
 * @param level      a level the codec has
 * @param splitBytes longest part; empty for a single one
 * @param identity   the disk's identity, kept in the image
 * @param check      whether the bag is read back, digested and decoded before it gets its name
 */
public record CaptureRequest(ImageName name, Codec codec, int level, OptionalLong splitBytes, DiskIdentity identity, boolean check) {
}
