package app.granary.engine.copy;

import app.granary.core.fault.Fault;
import app.granary.core.fault.FaultException;
import app.granary.core.proof.CheckOutcome;
import app.granary.core.proof.ProofLevel;
import app.granary.engine.bag.Bag;
import app.granary.engine.bag.Digests;
import app.granary.engine.codec.Chunks;
import app.granary.engine.progress.Progress;
import app.granary.engine.progress.Watch;
import app.granary.engine.source.Folders;
import app.granary.engine.verify.Verification;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.channels.FileChannel;
import java.nio.file.Files;
import java.nio.file.LinkOption;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;

/**
 * Repairs an image from another copy of it that is sound: only the stretches in which they differ are written, where they are damaged
 * anyway, so that it needs no room and can be done again if it is interrupted.
 */
public final class Repair {
    private final Path damaged;
    private final Bag sound;
    private final Watch watch;
    private long writtenBytes;

    private Repair(Path damaged, Bag sound, Watch watch) {
        this.damaged = damaged;
        this.sound = sound;
        this.watch = watch;
    }

    /**
     * What came of it.
     *
     * @param writtenBytes written into the damaged copy
     * @param check        of the repaired copy, made afterwards
     */
    public record Repaired(long writtenBytes, CheckOutcome check) {
    }

    /**
     * @param bag   the damaged copy, with its passphrase if it has one
     * @param sound the folder of the other copy; checked before anything is written
     * @param level how far the repaired copy is proven afterwards
     * @throws app.granary.core.fault.FaultException when it is not a copy of the same image, or not sound itself; then nothing is changed
     */
    public static Repaired run(Bag bag, Path sound, ProofLevel level, Watch watch) throws IOException {
        Bag other = Bag.open(sound);
        CheckOutcome whole = Verification.run(other, ProofLevel.SOUND, watch);
        if (!whole.ok()) {
            throw Fault.of(Fault.Kind.DAMAGED, sound.toString(),
                "The other copy is damaged too, so nothing was changed: " + whole.problems().get(0).message()).asException();
        }
        requireSameImage(bag, other);
        Repair repair = new Repair(bag.folder(), other, watch);
        repair.files();
        return new Repaired(repair.writtenBytes, Verification.run(bag, level, watch));
    }

    private static void requireSameImage(Bag bag, Bag other) throws IOException {
        List<String> differing = new ArrayList<>();
        for (String name : List.of(Bag.MANIFEST, Bag.TAG_MANIFEST)) {
            try {
                if (!bag.manifest(name).equals(other.manifest(name))) {
                    differing.add(name);
                }
            } catch (FaultException damaged) {
                // the other of the two has to tell
                differing.add(name);
            }
        }
        if (differing.size() == 2) {
            throw Fault
                .of(Fault.Kind.BAD_CHOICE, other.folder().toString(),
                    other.folder() + " is not a copy of the same image; nothing was changed. Choose a copy that was made of this image.")
                .asException();
        }
    }

    private void files() throws IOException {
        Map<String, String> digests = new TreeMap<>(sound.manifest(Bag.MANIFEST).digests());
        digests.putAll(sound.manifest(Bag.TAG_MANIFEST).digests());
        Set<String> paths = new LinkedHashSet<>(digests.keySet());
        paths.add(Bag.TAG_MANIFEST);
        long total = Folders.bytes(sound.folder());
        long done = 0;
        for (String path : paths) {
            done = file(path, done, total);
        }
        for (String path : digests.keySet()) {
            watch.requireGoingOn(path);
            if (writtenBytes > 0 && !path.startsWith("data/disk.img") && !Digests.of(damaged.resolve(path)).equals(digests.get(path))) {
                throw Fault.of(Fault.Kind.DEVICE_FAILED, damaged.toString(),
                    path + " is not what was written to it. Do not trust this drive; copy the image to another.").asException();
            }
        }
    }

    /** Makes one file the same as in the sound copy, stretch by stretch. */
    private long file(String path, long before, long total) throws IOException {
        Path mine = damaged.resolve(path);
        Path theirs = sound.folder().resolve(path);
        if (Files.exists(mine, LinkOption.NOFOLLOW_LINKS) && !Files.isRegularFile(mine, LinkOption.NOFOLLOW_LINKS)) {
            throw Fault
                .of(Fault.Kind.FORBIDDEN, mine.toString(),
                    path + " is a link or a folder where a file belongs; nothing was written through it. Remove it, then repair again.")
                .asException();
        }
        Files.createDirectories(mine.getParent());
        long done = before;
        ByteBuffer good = ByteBuffer.allocate(Chunks.BYTES);
        ByteBuffer have = ByteBuffer.allocate(Chunks.BYTES);
        try (FileChannel in = FileChannel.open(theirs, StandardOpenOption.READ, LinkOption.NOFOLLOW_LINKS);
            FileChannel out = FileChannel.open(mine, StandardOpenOption.CREATE, StandardOpenOption.READ, StandardOpenOption.WRITE)) {
            long length = in.size();
            for (long at = 0; at < length; at += Chunks.BYTES) {
                watch.requireGoingOn(path);
                fill(in, good, at);
                if (!same(out, have, good, at)) {
                    writtenBytes += good.remaining();
                    while (good.hasRemaining()) {
                        out.write(good, at + good.position());
                    }
                }
                done += Math.min(Chunks.BYTES, length - at);
                watch.advanced(new Progress(Progress.Stage.MENDING, done, total, writtenBytes));
            }
            if (out.size() > length) {
                out.truncate(length);
            }
            out.force(true);
        }
        Folders.sync(mine.getParent());
        return done;
    }

    private static void fill(FileChannel from, ByteBuffer into, long at) throws IOException {
        into.clear();
        while (into.hasRemaining() && from.read(into, at + into.position()) >= 0) {
            continue;
        }
        into.flip();
    }

    /** What cannot be read is not the same. */
    private static boolean same(FileChannel out, ByteBuffer have, ByteBuffer good, long at) throws IOException {
        try {
            fill(out, have, at);
            return have.equals(good);
        } catch (java.nio.channels.ClosedByInterruptException stopped) {
            throw stopped;
        } catch (IOException unreadable) {
            return false;
        }
    }
}
