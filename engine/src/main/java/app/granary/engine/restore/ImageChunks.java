package app.granary.engine.restore;

import app.granary.core.disk.Extents;
import app.granary.core.fault.Fault;
import app.granary.core.layout.RestoreLayout;
import app.granary.core.proof.CheckOutcome;
import app.granary.core.proof.ProofLevel;
import app.granary.engine.bag.Bag;
import app.granary.engine.bag.Digests;
import app.granary.engine.bag.FrameIndex;
import app.granary.engine.bag.FrameReader;
import app.granary.engine.bag.ImageJson;
import app.granary.engine.bag.ImageSource;
import app.granary.engine.progress.Progress;
import app.granary.engine.progress.Watch;
import app.granary.engine.verify.Verification;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.util.List;
import java.util.Optional;
import java.util.OptionalInt;

/** A disk as an image holds it. */
final class ImageChunks implements ChunkSource {
    private final Bag bag;
    private final ImageJson.Content content;
    private final Extents used;
    /** What alone is wanted when it is gone through; empty for all. */
    private final Optional<Extents> only;

    ImageChunks(Bag bag, ImageJson.Content content, Extents used) {
        this(bag, content, used, Optional.empty());
    }

    private ImageChunks(Bag bag, ImageJson.Content content, Extents used, Optional<Extents> only) {
        this.bag = bag;
        this.content = content;
        this.used = used;
        this.only = only;
    }

    @Override
    public String name() {
        return content.description().name();
    }

    @Override
    public long sizeBytes() {
        return content.description().disk().sizeBytes();
    }

    @Override
    public Extents used() {
        return used;
    }

    @Override
    public ChunkSource only(Extents wanted) {
        return new ImageChunks(bag, content, used, Optional.of(wanted));
    }

    @Override
    public Optional<String> identity() throws IOException {
        return Optional.of(Digests.of(bag.folder().resolve(Bag.MANIFEST)));
    }

    @Override
    public void requireSound(Watch watch) throws IOException {
        CheckOutcome outcome = Verification.run(bag, ProofLevel.READABLE, watch);
        if (!outcome.ok()) {
            throw Fault.of(Fault.Kind.DAMAGED, bag.folder().toString(),
                "The image is damaged, so the disk was not touched: " + outcome.problems().get(0).message()).asException();
        }
    }

    @Override
    public List<Patch> patches(RestoreLayout layout) throws IOException {
        bag.requireOpens(content.description());
        try (ImageSource image = new ImageSource(bag, content)) {
            return Patches.of(image, layout);
        }
    }

    @Override
    public void chunks(long from, Progress.Stage stage, Watch watch, Taker taker) throws IOException {
        try (FrameReader reader = new FrameReader(bag, content, stage, watch)) {
            reader.frames(from, only.orElse(Extents.range(0, sizeBytes())), frame -> {
                if (frame.sound()) {
                    taker.content(frame.chunk(), frame.count(), frame.raw(), frame.rawBytes());
                } else {
                    taker.damaged(frame.chunk(), frame.fault());
                }
            });
        }
    }

    @Override
    public boolean onwards() {
        return content.description().encrypted();
    }

    @Override
    public long count() {
        return content.index().chunks();
    }

    @Override
    public Reader reader() {
        return new Reader() {
            private ImageSource image;

            @Override
            public OptionalInt crc(long chunk) {
                FrameIndex index = content.index();
                return OptionalInt.of(index.crc(index.rowOf(chunk)));
            }

            @Override
            public void read(long at, byte[] into, int length) throws IOException {
                if (image == null) {
                    image = new ImageSource(bag, content);
                }
                image.read(at, ByteBuffer.wrap(into, 0, length));
            }

            @Override
            public void close() throws IOException {
                if (image != null) {
                    image.close();
                }
            }
        };
    }

    @Override
    public String where(long from, long to) {
        return content.description().partitionsWithin(from, to);
    }

    @Override
    public String differs(long from, long to) {
        return "What was restored differs from what was read of the disk at bytes " + from + " to " + (to - 1) + " of the disk ("
            + where(from, to) + "). Do not rely on this disk; its medium may be failing.";
    }
}
