package app.granary.engine.elsewhere;

import app.granary.core.disk.BlockSource;
import app.granary.core.disk.Partition;
import app.granary.core.fault.Fault;
import app.granary.core.fault.FaultException;
import app.granary.core.image.DiskInside;
import app.granary.core.measure.Sizes;
import app.granary.core.proof.CheckOutcome;
import app.granary.core.proof.Problem;
import app.granary.core.proof.ProofLevel;
import app.granary.engine.bag.Digests;
import app.granary.engine.progress.Watch;
import java.io.IOException;
import java.io.InputStream;
import java.nio.ByteBuffer;
import java.nio.file.Files;
import java.nio.file.LinkOption;
import java.nio.file.Path;
import java.security.MessageDigest;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalLong;

/**
 * Proves an image made elsewhere, as far as it can be: it brings no index of its own, only its format's checksums and what lists said of
 * it.
 */
public final class ElsewhereCheck {
    /** No disk is longer; what unpacks to more is no image of one. */
    private static final long LONGEST = 1L << 46;
    private static final int PIECE = 1 << 17;

    private final Path folder;
    private final ElsewhereImage image;
    private final Watch watch;
    private final List<Problem> problems = new ArrayList<>();
    private long contentBytes;
    private long readBytes;
    private boolean vouched;

    private ElsewhereCheck(Path folder, ElsewhereImage image, Watch watch) {
        this.folder = folder;
        this.image = image;
        this.watch = watch;
    }

    /**
     * What a check came to.
     *
     * @param outcome      with the level that was reached, which is lower than asked for where there was nothing to hold the bytes against
     * @param digests      SHA-256 of each file as it was read; empty when they were not
     * @param contentBytes length of the disk in it; empty when it was not unpacked to its end
     * @param note         why the level is lower than asked for, as a sentence; usually an empty string
     */
    public record Result(CheckOutcome outcome, Map<String, String> digests, OptionalLong contentBytes, String note) {
        public Result {
            digests = Map.copyOf(digests);
        }
    }

    /**
     * @param root  of the destination
     * @param image as it was found, with the digests it is to have
     * @param level at most {@link ProofLevel#READABLE}
     */
    public static Result run(Path root, ElsewhereImage image, ProofLevel level, Watch watch) throws IOException {
        return new ElsewhereCheck(ElsewhereScan.within(root, image.folder()), image, watch).run(level);
    }

    private Result run(ProofLevel asked) throws IOException {
        lengths();
        if (!problems.isEmpty() || !asked.includes(ProofLevel.SOUND)) {
            return new Result(outcome(asked), Map.of(), OptionalLong.empty(), "");
        }
        ProofLevel level = image.kind() == ElsewhereImage.Kind.KEPT && asked.includes(ProofLevel.SOUND) ? ProofLevel.SOUND : asked;
        boolean decode = level.includes(ProofLevel.READABLE);
        boolean one = image.kind() == ElsewhereImage.Kind.RAW;
        Map<String, String> digests = read(decode && one);
        if (decode && !one && problems.isEmpty()) {
            wholeDisk();
        }
        boolean compared = image.files().stream().noneMatch(file -> file.digest().isEmpty()) || !image.joinedDigest().isEmpty()
            || decode && (vouched || !image.contentDigest().isEmpty());
        String note = compared || !problems.isEmpty() ? ""
            : "There was nothing to hold its bytes against; their SHA-256 was taken now, and the next check compares with it.";
        return new Result(outcome(note.isEmpty() ? level : ProofLevel.COMPLETE), digests,
            decode && problems.isEmpty() ? OptionalLong.of(contentBytes) : OptionalLong.empty(), note);
    }

    /** Every partition of a set unpacks to its length; a virtual disk can be read throughout, and has the table it had. */
    private void wholeDisk() throws IOException {
        try {
            if (image.kind() == ElsewhereImage.Kind.SET) {
                contentBytes = ElsewhereDisk.bytes(image);
                ElsewhereDisk.requireWhole(folder, image, watch);
            } else {
                virtualDisk();
            }
        } catch (FaultException broken) {
            if (broken.fault().kind() == Fault.Kind.STOPPED) {
                throw broken;
            }
            problems.add(new Problem(image.name(), 0, 0, "", broken.fault().sentence()));
        }
    }

    private void virtualDisk() throws IOException {
        try (BlockSource disk = ElsewhereDisk.virtual(folder.resolve(image.files().get(0).name()))) {
            contentBytes = disk.sizeBytes();
            ByteBuffer piece = ByteBuffer.allocate(PIECE);
            for (long at = 0; at < contentBytes; at += piece.capacity()) {
                watch.requireGoingOn(image.name());
                disk.read(at, piece.clear().limit((int) Math.min(PIECE, contentBytes - at)));
            }
            if (!starts(DiskStart.look(disk)).equals(starts(Optional.of(image.inside())))) {
                problems.add(new Problem(image.name(), 0, 0, "", "The partition table in " + image.name()
                    + " is not the one it was added with. Make the image again."));
            }
        }
    }

    private CheckOutcome outcome(ProofLevel level) {
        return new CheckOutcome(level, problems, readBytes);
    }

    private void lengths() throws IOException {
        for (ElsewhereFile file : image.files()) {
            Path path = folder.resolve(file.name());
            if (!Files.isRegularFile(path, LinkOption.NOFOLLOW_LINKS)) {
                problems.add(new Problem(file.name(), 0, 0, "", file.name()
                    + (Files.exists(path, LinkOption.NOFOLLOW_LINKS) ? " is a link or a folder now, not a file." : " is missing.")));
            } else if (Files.size(path) != file.bytes()) {
                problems.add(new Problem(file.name(), Math.min(file.bytes(), Files.size(path)), Math.abs(file.bytes() - Files.size(path)),
                    "", file.name() + " is " + Files.size(path)
                        + " bytes long, and was " + file.bytes() + " when it was added."));
            }
        }
    }

    private Map<String, String> read(boolean decode) throws IOException {
        try (JoinedFiles in = new JoinedFiles(folder, image.files(), true, watch)) {
            Optional<Problem> broken = decode ? decoded(in) : Optional.empty();
            in.transferTo(java.io.OutputStream.nullOutputStream());
            readBytes = in.passedBytes();
            differing(in);
            // a digest says it for the whole file; where unpacking broke off says it for one place
            broken.ifPresent(problems::add);
            return in.digests();
        }
    }

    private void differing(JoinedFiles in) {
        for (ElsewhereFile file : image.files()) {
            String now = in.digests().getOrDefault(file.name(), "");
            if (!file.digest().isEmpty() && !file.digest().equals(now)) {
                problems.add(new Problem(file.name(), 0, file.bytes(), "", file.name() + " is not as it was: its SHA-256 is " + now
                    + " instead of " + file.digest() + " (" + file.source() + ")."));
            }
        }
        String joined = image.joinedDigest().isEmpty() ? "" : in.joinedDigest();
        if (!joined.equals(image.joinedDigest())) {
            problems.add(new Problem(image.name(), 0, image.storedBytes(), "",
                "The parts of " + image.name() + " together are not what its list says: their SHA-256 is " + joined + " instead of "
                    + image.joinedDigest() + "."));
        }
    }

    /** Unpacks all of it; what is wrong with that, if anything. */
    private Optional<Problem> decoded(JoinedFiles in) throws IOException {
        byte[] head = JoinedFiles.firstBytes(folder, image.files(), Packing.HEAD_BYTES);
        Packing packing = Packing.of(head);
        vouched = packing.vouches(head);
        MessageDigest digest = Digests.sha256();
        byte[] start = new byte[0];
        try (InputStream unpacked = packing.open(in.kept())) {
            byte[] piece = new byte[PIECE];
            start = unpacked.readNBytes(DiskStart.BYTES);
            content(digest, start, start.length);
            for (int count = unpacked.read(piece); count >= 0; count = unpacked.read(piece)) {
                content(digest, piece, count);
                watch.requireGoingOn(image.name()); // little that is packed may unpack to much
                if (contentBytes > LONGEST) {
                    return Optional
                        .of(problem(in, image.name() + " holds more than " + Sizes.decimal(LONGEST) + ", and no disk is that long."));
                }
            }
        } catch (FaultException stopped) {
            throw stopped;
        } catch (org.tukaani.xz.MemoryLimitException tooMuch) {
            return Optional.of(problem(in, image.name() + " was packed with a setting that takes " + tooMuch.getMemoryNeeded() / 1024
                + " MiB to unpack; unpack it with other tools."));
        } catch (IOException | RuntimeException broken) {
            return Optional.of(problem(in, in.where() + " cannot be unpacked beyond byte " + in.offsetBytes() + " (" + packing.word() + ": "
                + broken.getMessage() + ")."));
        }
        return wrongContent(packing, start, Digests.hex(digest.digest()));
    }

    private void content(MessageDigest digest, byte[] piece, int count) {
        contentBytes += count;
        if (!image.contentDigest().isEmpty()) {
            Digests.update(digest, piece, 0, count);
        }
    }

    private Problem problem(JoinedFiles in, String sentence) {
        return new Problem(in.where(), in.offsetBytes(), 0, "", sentence);
    }

    /** Where the partitions begin; none where there is no table. */
    private static List<Long> starts(Optional<DiskInside> inside) {
        return inside.map(DiskInside::partitions).orElse(List.of()).stream().map(Partition::startBytes).toList();
    }

    private Optional<Problem> wrongContent(Packing packing, byte[] start, String digest) throws IOException {
        if (!image.contentDigest().isEmpty() && !digest.equals(image.contentDigest())) {
            return Optional.of(new Problem(image.name(), 0, image.storedBytes(), "",
                "What " + image.name() + " unpacks to is not what its list says: its SHA-256 is " + digest + " instead of "
                    + image.contentDigest() + "."));
        }
        Optional<DiskInside> inside = packing == Packing.NONE ? ElsewhereScan.inside(folder, image.files(), packing)
            : DiskStart.look(image.name(), start, OptionalLong.of(contentBytes));
        if (inside.isEmpty() || !inside.get().tableId().equals(image.inside().tableId())
            || !starts(inside).equals(starts(Optional.of(image.inside())))) {
            String why = inside.map(DiskInside::remark).orElse("");
            return Optional.of(new Problem(image.name(), 0, image.storedBytes(), "",
                "The partition table in " + image.name() + " is not the one it was added with. " + why + " Make the image again."));
        }
        boolean cut = image.inside().endBytes() > contentBytes;
        return cut ? Optional.of(new Problem(image.name(), image.storedBytes(), 0, "",
            image.name() + " unpacks to " + contentBytes + " bytes, but its last partition ends at byte "
                + image.inside().endBytes() + ": it was cut short."))
            : Optional.empty();
    }
}
