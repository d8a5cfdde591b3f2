package app.granary.engine.host;

import app.granary.core.disk.BlockSource;
import app.granary.core.disk.Sparse;
import app.granary.core.fault.FaultException;
import app.granary.engine.bag.Digests;
import app.granary.engine.files.DiskFiles;
import app.granary.engine.files.FileFacts;
import app.granary.engine.files.FilePlace;
import app.granary.engine.files.FolderPage;
import app.granary.engine.files.FolderSearch;
import app.granary.engine.progress.Rest;
import app.granary.engine.progress.Watch;
import java.io.IOException;
import java.io.InputStream;
import java.nio.ByteBuffer;
import java.nio.file.Path;
import java.security.MessageDigest;
import java.time.Duration;
import java.util.ArrayList;
import java.util.HexFormat;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.concurrent.ExecutionException;
import java.util.concurrent.Executors;
import java.util.concurrent.FutureTask;
import java.util.concurrent.TimeUnit;

/**
 * Images on this machine's destinations, looked into. Those looked into last stay open for a while, with what of them was decoded in memory
 * and nowhere else; then their files are let go, so that a drive can be taken away. Safe for several threads.
 */
public final class ImageInsides implements Insides {
    private static final int MOST_OPEN = 3;
    private static final Duration IDLE = Duration.ofSeconds(90);

    private final Bags bags;
    private final Disks disks;
    private final Map<ImageAt, Use> open = new LinkedHashMap<>(8, 0.75f, true);
    private boolean watched;

    /** Where an image lies. */
    public interface Bags {
        /** @throws FaultException when its destination is not attached */
        Path bag(ImageAt image) throws IOException;
    }

    /** An image that other tools made, as the disk it was made of. */
    public interface Disks {
        /** @throws FaultException when its destination is not attached, or it cannot be read as a disk */
        BlockSource open(ImageAt image) throws IOException;
    }

    /** One that is open or being opened, and by how many it is used right now. */
    private static final class Use {
        private final FutureTask<OpenInside> opening;
        private int users;
        private long usedNanos = System.nanoTime();
        private boolean ended;

        Use(FutureTask<OpenInside> opening) {
            this.opening = opening;
        }

        /** The first who wants it opens it, the others wait for that: a slow drive keeps nobody from the other images. */
        OpenInside inside() throws IOException {
            opening.run();
            try {
                return opening.get();
            } catch (InterruptedException stopped) {
                throw Rest.interrupted();
            } catch (ExecutionException failed) {
                throw failed.getCause() instanceof FaultException known ? known.fault().asException() : new IOException(failed.getCause());
            }
        }

        void close() throws IOException {
            try {
                inside().close();
            } catch (IOException neverOpened) {
                // nothing is held then
            }
        }
    }

    /** What is done with one. */
    private interface Look<T> {
        T at(OpenInside inside) throws IOException;
    }

    public ImageInsides(Bags bags, Disks disks) {
        this.bags = bags;
        this.disks = disks;
    }

    private OpenInside opened(ImageAt image) throws IOException {
        if (image.elsewhere().isEmpty()) {
            return new OpenInside(bags.bag(image), image);
        }
        BlockSource disk = disks.open(image);
        try {
            return new OpenInside(disk);
        } catch (IOException | RuntimeException failed) {
            disk.close();
            throw failed;
        }
    }

    /** What fails for another reason than what the image says, such as a drive that is gone, ends its use. */
    private <T> T in(ImageAt image, Look<T> look) throws IOException {
        Use use = taken(image);
        boolean sound = false;
        try {
            OpenInside inside = use.inside();
            try {
                T out = look.at(inside);
                sound = true;
                return out;
            } catch (FaultException told) {
                sound = true;
                throw told;
            }
        } finally {
            given(image, use, sound);
        }
    }

    private synchronized Use taken(ImageAt image) throws IOException {
        Use use = open.get(image);
        if (use == null) {
            use = new Use(new FutureTask<>(() -> opened(image)));
            open.put(image, use);
            if (!watched) {
                watched = true;
                watch();
            }
        }
        use.users++;
        letGo();
        return use;
    }

    private synchronized void given(ImageAt image, Use use, boolean sound) throws IOException {
        use.users--;
        use.usedNanos = System.nanoTime();
        if (!sound) {
            open.remove(image, use);
            use.ended = true;
        }
        if (use.ended && use.users == 0) {
            use.close();
        }
    }

    /** Those idle for long, and beyond the most that stay open, the ones used longest ago. */
    private synchronized void letGo() throws IOException {
        for (Map.Entry<ImageAt, Use> each : new ArrayList<>(open.entrySet())) {
            Use use = each.getValue();
            if (use.users == 0 && (open.size() > MOST_OPEN || System.nanoTime() - use.usedNanos > IDLE.toNanos())) {
                open.remove(each.getKey());
                use.close();
            }
        }
    }

    private void watch() {
        Executors.newSingleThreadScheduledExecutor(work -> {
            Thread thread = new Thread(work, "granary-insides");
            thread.setDaemon(true);
            return thread;
        }).scheduleWithFixedDelay(() -> {
            try {
                letGo();
            } catch (IOException failed) {
                // its file is let go all the same
            }
        }, IDLE.toSeconds(), IDLE.toSeconds() / 3, TimeUnit.SECONDS);
    }

    @Override
    public Shape shape(ImageAt image) throws IOException {
        return in(image, OpenInside::shape);
    }

    @Override
    public byte[] read(ImageAt image, long fromBytes, int length) throws IOException {
        return in(image, inside -> {
            byte[] out = new byte[Math.min(length, MOST_BYTES)];
            inside.source().read(fromBytes, ByteBuffer.wrap(out));
            return out;
        });
    }

    @Override
    public Sparse.Stretch stretch(ImageAt image, long atBytes) throws IOException {
        return in(image, inside -> inside.stretch(atBytes));
    }

    @Override
    public List<DiskFiles.Volume> volumes(ImageAt image) throws IOException {
        return in(image, inside -> inside.files().volumes());
    }

    @Override
    public FolderPage list(ImageAt image, FilePlace folder, FolderPage.Asked asked) throws IOException {
        return in(image, inside -> inside.folder(folder).page(asked));
    }

    @Override
    public FolderSearch search(ImageAt image, FilePlace below, String text, long mostMillis) throws IOException {
        long end = System.nanoTime() + TimeUnit.MILLISECONDS.toNanos(mostMillis);
        return in(image, inside -> FolderSearch.run(inside.files().find(below), below, text, () -> System.nanoTime() < end));
    }

    @Override
    public FileFacts file(ImageAt image, FilePlace file) throws IOException {
        return in(image, inside -> inside.facts(file));
    }

    @Override
    public String digest(ImageAt image, FilePlace file, Watch watch) throws IOException {
        return in(image, inside -> {
            MessageDigest digest = Digests.sha256();
            byte[] piece = new byte[MOST_BYTES];
            try (InputStream content = inside.files().content(file)) {
                for (int count = content.read(piece); count >= 0; count = content.read(piece)) {
                    watch.requireGoingOn(file.toString());
                    digest.update(piece, 0, count);
                }
            }
            return HexFormat.of().formatHex(digest.digest());
        });
    }

    @Override
    public byte[] bytes(ImageAt image, FilePlace file, long from, int most) throws IOException {
        return in(image, inside -> inside.bytes(file, from, most));
    }
}
