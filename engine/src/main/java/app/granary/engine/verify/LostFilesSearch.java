package app.granary.engine.verify;

import app.granary.core.disk.BlockSource;
import app.granary.core.disk.Extents;
import app.granary.core.disk.SourceOver;
import app.granary.core.fault.Fault;
import app.granary.core.fault.FaultException;
import app.granary.core.proof.LostFiles;
import app.granary.core.proof.Problem;
import app.granary.engine.bag.Bag;
import app.granary.engine.bag.ImageDescription;
import app.granary.engine.bag.ImageJson;
import app.granary.engine.bag.ImageSource;
import app.granary.engine.codec.Chunks;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;

/** Which files of an image lie on what was found damaged, read out of what is still good of the image. */
final class LostFilesSearch {
    private LostFilesSearch() {
    }

    static List<LostFiles> of(Bag bag, ImageJson.Content content, List<Problem> problems) throws IOException {
        List<LostFiles> out = new ArrayList<>();
        Extents damaged = damaged(problems);
        ImageDescription description = content.description();
        if (damaged.isEmpty() || description.encrypted() && bag.passphrase().isNone()) {
            return out;
        }
        try (BlockSource source = new Holed(new ImageSource(bag, content), damaged)) {
            for (ImageDescription.ImagePartition p : description.partitions()) {
                long end = p.startBytes() + p.sizeBytes();
                if (end <= source.sizeBytes()) {
                    LostFiles.of(source, p.label(), p.startBytes(), end, damaged).ifPresent(out::add);
                }
            }
        }
        return out;
    }

    private static Extents damaged(List<Problem> problems) {
        Extents.Builder out = new Extents.Builder();
        problems.stream().filter(p -> p.diskEndBytes() > p.diskStartBytes()).sorted(Comparator.comparingLong(Problem::diskStartBytes))
            .forEach(p -> out.add(p.diskStartBytes(), p.diskEndBytes()));
        return out.build();
    }

    /** An image whose damaged chunks read as zeros. */
    private static final class Holed extends SourceOver {
        private final Extents damaged;

        Holed(ImageSource image, Extents damaged) {
            super(image);
            this.damaged = damaged;
        }

        @Override
        public void read(long offsetBytes, ByteBuffer into) throws IOException {
            long at = offsetBytes;
            while (into.hasRemaining()) {
                long chunkEnd = (at / Chunks.BYTES + 1) * Chunks.BYTES;
                int piece = (int) Math.min(into.remaining(), chunkEnd - at);
                ByteBuffer part = into.slice(into.position(), piece);
                if (damaged.bytesWithin(at, at + piece) == 0) {
                    sound(at, part);
                }
                while (part.hasRemaining()) {
                    part.put((byte) 0);
                }
                into.position(into.position() + piece);
                at += piece;
            }
        }

        private void sound(long at, ByteBuffer part) throws IOException {
            try {
                source.read(at, part);
            } catch (FaultException damagedToo) {
                if (damagedToo.fault().kind() != Fault.Kind.DAMAGED) {
                    throw damagedToo;
                }
                part.rewind();
            }
        }
    }
}
