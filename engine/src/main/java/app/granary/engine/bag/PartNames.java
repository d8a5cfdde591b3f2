package app.granary.engine.bag;

import app.granary.engine.codec.Chunks;
import app.granary.engine.codec.Codec;
import java.util.Locale;
import java.util.OptionalLong;

/**
 * What the parts of an image are called: {@code disk.img.zst.000}, and {@code .gpg} behind the number where they are encrypted. They sort
 * in order.
 *
 * @param stem   file name up to the number, with its dot
 * @param digits of the number, at least three
 * @param ending behind the number, or empty
 */
record PartNames(String stem, int digits, String ending) {

    static PartNames of(Codec codec, long diskBytes, OptionalLong splitBytes, boolean encrypted) {
        long worst = Chunks.count(diskBytes) * codec.maxFrameBytes(Chunks.BYTES);
        // a part that ends early for the next frame is still more than half full, or holds one cut frame; encryption takes less than a
        // hundredth
        long most = splitBytes.isEmpty() ? 1 : (worst + worst / 50) / splitBytes.getAsLong() * 2 + 2;
        return new PartNames("disk.img" + codec.suffix() + ".", Math.max(3, Long.toString(most - 1).length()), encrypted ? ".gpg" : "");
    }

    String of(int number) {
        return stem + String.format(Locale.ROOT, "%0" + digits + "d", number) + ending;
    }
}
