package app.granary.engine.bag;

import app.granary.core.image.BadStretch;
import app.granary.engine.codec.BadFrameException;
import app.granary.engine.codec.Chunks;
import app.granary.engine.codec.FrameCoder;
import app.granary.engine.openpgp.Passphrase;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.LinkOption;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;

/** Finds how much of an unfinished capture is kept, by its log and by what lies there. */
final class CutFinder {
    private final Path partial;
    private final Begun begun;
    private final Told told;
    private final PartNames names;

    /**
     * What the log tells.
     *
     * @param safeBytes up to where everything is surely on the device
     */
    record Told(List<Unfinished.Row> rows, List<BadStretch> bad, List<ImageDescription.Part> ended, long safeBytes) {
    }

    CutFinder(Path partial, Begun begun, Told told, PartNames names) {
        this.partial = partial;
        this.begun = begun;
        this.told = told;
        this.names = names;
    }

    /**
     * Finds the last frame that is whole on the destination: of encrypted parts, the last one that ends a part; of others, the last one
     * whose bytes are surely on the device or decode to what was read.
     */
    UnfinishedCut find() throws IOException {
        List<ImageDescription.Part> there = new ArrayList<>();
        for (ImageDescription.Part part : told.ended) {
            if (length(part.name()) != part.storedBytes()) {
                break;
            }
            there.add(part);
        }
        long endedBytes = there.stream().mapToLong(ImageDescription.Part::bytes).sum();
        long openBytes = begun.encrypted() ? 0 : length(names.of(there.size()));
        int kept = 0;
        long keptBytes = 0;
        int whole = 0;
        for (Unfinished.Row row : told.rows) {
            long end = keptBytes + row.count() * row.storedBytes();
            if (end > endedBytes + openBytes) {
                break;
            }
            keptBytes = end;
            kept++;
            if (end <= told.safeBytes || isPartEnd(there, end)) {
                whole = kept;
            }
        }
        return cutAt(begun.encrypted() ? whole : soundFrom(whole, kept, there, openBytes), there);
    }

    /** Decodes what may not have come to the device, up to the first frame that is not what was read. */
    private int soundFrom(int whole, int kept, List<ImageDescription.Part> there, long openBytes) throws IOException {
        List<ImageDescription.Part> parts = new ArrayList<>(there);
        parts.add(new ImageDescription.Part(names.of(there.size()), openBytes, openBytes));
        long at = told.rows.subList(0, whole).stream().mapToLong(row -> row.count() * row.storedBytes()).sum();
        byte[] frame = new byte[begun.codec().maxFrameBytes(Chunks.BYTES)];
        byte[] raw = new byte[Chunks.BYTES];
        try (StoredBytes stored = new StoredBytes(partial.resolve("data"), parts, Passphrase.NONE);
            FrameCoder coder = begun.codec().coder(begun.level())) {
            long chunk = told.rows.subList(0, whole).stream().mapToLong(Unfinished.Row::count).sum();
            for (int i = whole; i < kept; i++) {
                Unfinished.Row row = told.rows.get(i);
                for (long n = 0; n < row.count(); n++, chunk++, at += row.storedBytes()) {
                    int length = Chunks.length(chunk, begun.disk().sizeBytes());
                    if (row.storedBytes() > frame.length || !stored.read(at, frame, row.storedBytes())) {
                        return i;
                    }
                    coder.decode(frame, row.storedBytes(), raw, length);
                    if (Chunks.crc(raw, length) != row.crc()) {
                        return i;
                    }
                }
                whole = i + 1;
            }
        } catch (BadFrameException torn) {
            return whole;
        }
        return kept;
    }

    private static boolean isPartEnd(List<ImageDescription.Part> parts, long bytes) {
        long end = 0;
        for (ImageDescription.Part part : parts) {
            end += part.bytes();
            if (end == bytes) {
                return true;
            }
        }
        return false;
    }

    private UnfinishedCut cutAt(int count, List<ImageDescription.Part> there) {
        List<ImageDescription.Part> parts = new ArrayList<>();
        long left = told.rows.subList(0, count).stream().mapToLong(row -> row.count() * row.storedBytes()).sum();
        for (ImageDescription.Part part : there) {
            if (part.bytes() > left) {
                break;
            }
            parts.add(part);
            left -= part.bytes();
        }
        return new UnfinishedCut(List.copyOf(told.rows.subList(0, count)),
            count == 0 ? List.of() : List.copyOf(told.bad.subList(0, told.rows.get(count - 1).badBefore())), parts, left);
    }

    private long length(String part) throws IOException {
        Path file = partial.resolve("data").resolve(part);
        return Files.isRegularFile(file, LinkOption.NOFOLLOW_LINKS) ? Files.size(file) : 0;
    }
}
