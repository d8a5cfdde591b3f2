package app.granary.engine.copy;

import app.granary.core.fault.Fault;
import app.granary.core.image.ImageName;
import app.granary.core.proof.CheckOutcome;
import app.granary.core.proof.ProofLevel;
import app.granary.engine.bag.Bag;
import app.granary.engine.bag.PartialLock;
import app.granary.engine.bag.Unfinished;
import app.granary.engine.openpgp.Passphrase;
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
import java.nio.file.StandardCopyOption;
import java.nio.file.StandardOpenOption;
import java.util.List;
import java.util.stream.Stream;

/** Copies an image, byte for byte, to another destination, and gives the copy its name once every digest of it matches there. */
public final class BagCopy {
    private static final int PIECE = 1 << 20;

    private BagCopy() {
    }

    /**
     * @param from        an image's folder
     * @param destination an existing folder elsewhere
     * @return what checking the copy found: nothing, up to sound
     * @throws app.granary.core.fault.FaultException when the name is taken there, or what was copied is not sound; then nothing is left
     *                                               there
     */
    public static CheckOutcome run(Path from, Path destination, Watch watch) throws IOException {
        Bag.open(from);
        String name = ImageName.parse(from.getFileName().toString()).text();
        Path to = destination.resolve(name);
        Path partial = destination.resolve(name + ImageName.PARTIAL);
        if (Files.exists(to, LinkOption.NOFOLLOW_LINKS)) {
            throw Fault.of(Fault.Kind.BAD_CHOICE, to.toString(), to + " exists already; nothing was copied. Choose another destination.")
                .asException();
        }
        boolean done = false;
        try (PartialLock lock = PartialLock.hold(partial)) {
            sweep(destination, ImageName.parse(name));
            try {
                files(from, partial, watch);
                CheckOutcome outcome = Verification.run(new Bag(partial, Passphrase.NONE), ProofLevel.SOUND, watch);
                if (!outcome.ok()) {
                    throw Fault.of(Fault.Kind.DAMAGED, partial.toString(),
                        "The copy is not sound, so it was removed again: " + outcome.problems().get(0).message()
                            + " Check the image it was copied from.")
                        .asException();
                }
                Files.move(partial, to, StandardCopyOption.ATOMIC_MOVE);
                done = true;
                Folders.sync(destination);
                return outcome;
            } finally {
                if (!done) {
                    Folders.delete(partial);
                }
            }
        }
    }

    /** What a copy left that a fall of power ended is made anew; a capture of that name is somebody's work. */
    private static void sweep(Path destination, ImageName name) throws IOException {
        Path partial = destination.resolve(name.text() + ImageName.PARTIAL);
        if (!Files.exists(partial, LinkOption.NOFOLLOW_LINKS)) {
            return;
        }
        if (Unfinished.isCapture(destination, name)) {
            throw Fault.of(Fault.Kind.BAD_CHOICE, partial.toString(), "There is an unfinished capture " + name.text()
                + " on that destination; nothing was copied. Carry it on or discard it first, or choose another destination.")
                .asException();
        }
        Folders.delete(partial);
    }

    private static void files(Path from, Path to, Watch watch) throws IOException {
        long total = Folders.bytes(from);
        long done = 0;
        List<Path> all;
        try (Stream<Path> walk = Files.walk(from)) {
            all = walk.filter(file -> Files.isRegularFile(file, LinkOption.NOFOLLOW_LINKS)).sorted().toList();
        }
        ByteBuffer buffer = ByteBuffer.allocateDirect(PIECE);
        for (Path file : all) {
            Path copy = to.resolve(from.relativize(file).toString());
            Files.createDirectories(copy.getParent());
            try (FileChannel in = FileChannel.open(file, StandardOpenOption.READ);
                FileChannel out = FileChannel.open(copy, StandardOpenOption.CREATE_NEW, StandardOpenOption.WRITE)) {
                while (in.read(buffer.clear()) >= 0) {
                    watch.requireGoingOn(file.getFileName().toString());
                    done += buffer.flip().remaining();
                    while (buffer.hasRemaining()) {
                        out.write(buffer);
                    }
                    watch.advanced(new Progress(Progress.Stage.COPYING, done, total, done));
                }
                out.force(true);
            }
            Folders.sync(copy.getParent());
        }
        Folders.sync(to);
    }
}
