package app.granary.engine.bag;

import app.granary.core.fault.Fault;
import app.granary.core.image.BadStretch;
import app.granary.core.image.ImageName;
import app.granary.engine.codec.ZeroFrame;
import app.granary.engine.openpgp.Passphrase;
import app.granary.engine.source.Folders;
import java.io.Closeable;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import java.util.stream.Stream;

/**
 * Writes a bag under {@code NAME.partial} and gives it its name when all of it is on the device. Closed before {@link #finish}, what was
 * written stays there as an unfinished capture, with a log by which it can be carried on; nothing half-made ever carries a final name.
 */
public final class BagWriter implements Closeable {
    /** Shortest part; below it the count of parts gets out of hand. */
    public static final long MIN_SPLIT = 65_536;
    /**
     * Longest encrypted part where nothing shorter was asked for: an encrypted capture is carried on from the start of a part, and damage
     * makes no more than a part unreadable. It fits every file system.
     */
    public static final long ENCRYPTED_SPLIT = 4_000_000_000L;

    private final Path folder;
    private final Path partial;
    private final PartWriter parts;
    private final CaptureLog log;
    private final FrameIndex index;
    private final List<BadStretch> bad;
    private final StateSums states;
    private final String comment;
    private boolean finished;

    private BagWriter(Path partial, ImageName name, PartWriter parts, CaptureLog log, UnfinishedCut cut,
        String comment) {
        this.comment = comment;
        this.folder = partial.resolveSibling(name.text());
        this.partial = partial;
        this.parts = parts;
        this.log = log;
        this.index = cut.index();
        this.bad = new ArrayList<>(cut.bad());
        this.states = StateSums.of(cut.rows());
    }

    /**
     * @param destination an existing folder
     * @param begun       what it is begun with
     * @param passphrase  none unless it is to be encrypted
     * @param digesting   whether the parts are digested as they are written; not needed when they are read back before {@link #complete}
     * @throws app.granary.core.fault.FaultException when the name is taken, also by an unfinished capture, the folder is missing or the
     *                                               split is too small
     */
    public static BagWriter create(Path destination, ImageName name, Begun begun, Passphrase passphrase, boolean digesting)
        throws IOException {
        if (!Files.isDirectory(destination)) {
            throw Fault.of(Fault.Kind.BAD_CHOICE, destination.toString(),
                "There is no folder " + destination + ". Attach the drive or make the folder first.").asException();
        }
        if (begun.splitBytes().isPresent() && begun.splitBytes().getAsLong() < MIN_SPLIT) {
            throw Fault
                .of(Fault.Kind.BAD_CHOICE, "",
                    "Parts of " + begun.splitBytes().getAsLong() + " bytes are too small. Use at least " + MIN_SPLIT + " bytes.")
                .asException();
        }
        Path partial = destination.resolve(name.text() + ImageName.PARTIAL);
        try (Stream<Path> there = Files.list(destination)) {
            for (Path taken : there.filter(path -> isOneOf(path, name.text(), name.text() + ImageName.PARTIAL)).toList()) {
                throw Fault.of(Fault.Kind.BAD_CHOICE, taken.toString(),
                    taken.getFileName().toString().toLowerCase(Locale.ROOT).endsWith(ImageName.PARTIAL)
                        ? "There is an unfinished capture " + taken
                            + "; nothing was written. Carry it on or discard it (in a shell: --carry-on, --start-over), or choose "
                            + "another name."
                        : taken
                            + " exists already; nothing was written. Choose another name; one that differs only in capitals is the same "
                            + "on some drives.")
                    .asException();
            }
        }
        // the log first: what lies there without one was never begun
        return locked(partial, lock -> {
            CaptureLog log = CaptureLog.begin(partial, begun, lock);
            Files.createDirectories(partial.resolve("data"));
            return new BagWriter(partial, name, writer(partial, begun, passphrase, digesting, log, List.of(), 0), log,
                new UnfinishedCut(List.of(), List.of(), List.of(), 0), begun.comment());
        });
    }

    private interface Opening {
        BagWriter open(PartialLock lock) throws IOException;
    }

    /** The lock goes with the writer, or is given back when there is none. */
    private static BagWriter locked(Path partial, Opening opening) throws IOException {
        PartialLock lock = PartialLock.hold(partial);
        try {
            return opening.open(lock);
        } catch (IOException | RuntimeException failed) {
            lock.close();
            throw failed;
        }
    }

    private static boolean isOneOf(Path path, String name, String partial) {
        String there = path.getFileName().toString();
        return there.equalsIgnoreCase(name) || there.equalsIgnoreCase(partial);
    }

    private static PartWriter writer(Path partial, Begun begun, Passphrase passphrase, boolean digesting, CaptureLog log,
        List<ImageDescription.Part> ended, long openBytes)
        throws IOException {
        PartNames names = PartNames.of(begun.codec(), begun.disk().sizeBytes(), begun.splitBytes(), begun.encrypted());
        return new PartWriter(partial.resolve("data"), names, begun.splitBytes().orElse(Long.MAX_VALUE), digesting, passphrase, log, ended,
            openBytes);
    }

    /** Carries an unfinished capture on behind its last whole frame; what is not kept of it is removed. */
    static BagWriter carryOn(Unfinished unfinished, UnfinishedCut cut, Passphrase passphrase) throws IOException {
        return locked(unfinished.partial(), lock -> carryOn(unfinished, cut, passphrase, lock));
    }

    private static BagWriter carryOn(Unfinished unfinished, UnfinishedCut cut, Passphrase passphrase, PartialLock lock)
        throws IOException {
        Path partial = unfinished.partial();
        Set<String> keep = new HashSet<>();
        cut.ended().forEach(part -> keep.add(part.name()));
        if (cut.openBytes() > 0) {
            keep.add(unfinished.names().of(cut.ended().size()));
        }
        try (Stream<Path> files = Files.list(partial.resolve("data"))) {
            for (Path file : files.filter(f -> !keep.contains(f.getFileName().toString())).toList()) {
                Files.delete(file);
            }
        }
        for (String tag : List.of(Bag.MANIFEST, Bag.TAG_MANIFEST, "bagit.txt", "bag-info.txt")) {
            Files.deleteIfExists(partial.resolve(tag));
        }
        CaptureLog log = CaptureLog.carryOn(partial, unfinished.begun(), cut, lock);
        return new BagWriter(partial, unfinished.name(),
            writer(partial, unfinished.begun(), passphrase, false, log, cut.ended(), cut.openBytes()), log, cut,
                unfinished.begun().comment());
    }

    /**
     * Appends the frame of one chunk.
     *
     * @param crc      CRC-32C of the chunk
     * @param stateCrc see {@link app.granary.engine.codec.Chunks#stateCrc}
     */
    public void frame(byte[] frame, int length, int crc, int stateCrc) throws IOException {
        parts.write(frame, length);
        states.add(index.chunks(), stateCrc);
        index.add(1, length, crc, false);
        log.frame(length, crc, stateCrc);
    }

    /** Appends the frame of zeros as often as there are whole chunks of them. */
    public void zeros(ZeroFrame zero, long count) throws IOException {
        for (long i = 0; i < count; i++) {
            parts.write(zero.frame(), zero.frame().length);
        }
        index.add(count, zero.frame().length, zero.crc(), true);
        log.zeros(count, zero.frame().length, zero.crc());
    }

    /** Notes sectors of the next frame's chunk that could not be read. */
    public void bad(List<BadStretch> stretches) {
        stretches.forEach(log::bad);
        bad.addAll(stretches);
    }

    /**
     * Whether a chunk was made of these bytes.
     *
     * @param chunk below the index's count of chunks
     */
    public boolean isOf(long chunk, byte[] raw, int length) {
        return states.isOf(index, chunk, raw, length);
    }

    /** The frames so far. */
    public FrameIndex index() {
        return index;
    }

    /** Sectors of those chunks that could not be read, in order of the disk; what follows each other is one. */
    public List<BadStretch> badSectors() {
        List<BadStretch> out = new ArrayList<>();
        for (BadStretch each : bad.stream().sorted(Comparator.comparingLong(BadStretch::startBytes)).toList()) {
            BadStretch last = out.isEmpty() ? null : out.get(out.size() - 1);
            if (last != null && last.endBytes() >= each.startBytes()) {
                out.set(out.size() - 1, new BadStretch(last.startBytes(), Math.max(last.endBytes(), each.endBytes()) - last.startBytes()));
            } else {
                out.add(each);
            }
        }
        return out;
    }

    /** Where the bag lies while it is made. */
    public Path partial() {
        return partial;
    }

    /** Digests of parts by path within the bag; empty unless asked to digest. */
    public Map<String, String> digests() {
        return parts.digests();
    }

    /** Stored bytes of frames so far. */
    public long writtenBytes() {
        return parts.writtenBytes();
    }

    /** Ends the parts; no frame may follow. */
    public List<ImageDescription.Part> endFrames() throws IOException {
        parts.finish();
        return parts.parts();
    }

    /**
     * Writes everything but the frames, and forces it.
     *
     * @param sfdisk      the table dump, or an empty string for a disk without a table
     * @param firstSector the disk's first sector
     * @param digests     SHA-256 of every part by path within the bag
     * @return where the complete bag now lies, still under its partial name
     */
    public Path complete(ImageDescription description, String sfdisk, byte[] firstSector, Map<String, String> digests) throws IOException {
        new BagTags(partial).write(description, index, sfdisk, firstSector, digests, comment);
        return partial;
    }

    /** Gives the bag its name. */
    public Path finish() throws IOException {
        Files.move(partial, folder, StandardCopyOption.ATOMIC_MOVE);
        finished = true;
        Folders.sync(folder.toAbsolutePath().getParent());
        log.close();
        Files.delete(CaptureLog.of(partial));
        return folder;
    }

    /** Removes what was written: what was read back cannot be trusted, so there is nothing to carry on. */
    public void discard() throws IOException {
        close();
        delete();
    }

    private void delete() throws IOException {
        Folders.delete(partial);
        Files.deleteIfExists(CaptureLog.of(partial));
    }

    @Override
    public void close() throws IOException {
        try {
            parts.close();
        } finally {
            log.close(); // with it the lock: a drive that was pulled must not keep it
        }
        if (!finished && index.chunks() == 0) {
            delete(); // nothing to carry on
        }
    }
}
