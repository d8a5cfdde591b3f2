package app.granary.engine.host;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertTrue;

import app.granary.core.claim.Claims;
import app.granary.core.claim.Device;
import app.granary.core.claim.DeviceClaim;
import app.granary.core.disk.BlockSource;
import app.granary.core.disk.DiskIdentity;
import app.granary.core.disk.SeenDisk;
import app.granary.core.fault.Fault;
import app.granary.core.filesystem.DiskSurvey;
import app.granary.core.filesystem.SurveyChoice;
import app.granary.core.image.ImageName;
import app.granary.core.target.OverwriteRules;
import app.granary.core.target.TargetDisk;
import app.granary.core.target.TargetLook;
import app.granary.engine.bag.Bag;
import app.granary.engine.bag.ImageSource;
import app.granary.engine.capture.Capture;
import app.granary.engine.capture.CaptureRequest;
import app.granary.engine.codec.Codec;
import app.granary.engine.openpgp.Passphrase;
import app.granary.engine.progress.Progress;
import app.granary.engine.progress.Watch;
import app.granary.engine.restore.DiskCopy;
import app.granary.engine.restore.RestoreTarget;
import app.granary.engine.source.BlockTarget;
import app.granary.engine.source.Folders;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.OptionalLong;
import java.util.Random;
import java.util.Set;
import org.junit.jupiter.api.Tag;
import org.junit.jupiter.api.Test;

/**
 * Random histories of captures, copies onto disks, mounts, writes, replugs, exchanged paths and kills on a small machine in memory, each
 * step of work broken into by the next deed. The claims, the confirming and holding of targets, the capture and the copy are the ones that
 * work on real disks.
 */
@Tag("large")
class HistoriesTest {
    private static final int HISTORIES = 2000;
    private static final int DEEDS = 7;
    private static final int DEEPEST = 3;
    private static final int BYTES = (1 << 20) + (64 << 10);
    private static final byte[] NOISE = new byte[2 * BYTES];

    static {
        new Random(1).nextBytes(NOISE);
    }

    /** The program was ended. */
    private static final class Killed extends RuntimeException {
        private static final long serialVersionUID = 1;
    }

    /** A disk of the machine, with what it should hold by all that was allowed to write to it. */
    private static final class Disk {
        private final DiskIdentity identity;
        private final byte[] bytes = new byte[BYTES];
        private final byte[] shadow;
        private String path;
        private int attachment;
        private boolean mounted;
        private int holder;
        /** For each capture that is under way, what it held at each moment of it. */
        private final List<List<byte[]>> captures = new ArrayList<>();

        private Disk(DiskIdentity identity, String path, int attachment, Random random) {
            this.identity = identity;
            this.path = path;
            this.attachment = attachment;
            System.arraycopy(NOISE, random.nextInt(BYTES), bytes, 0, BYTES);
            this.shadow = bytes.clone();
        }

        private synchronized void allowed(int at, byte[] content) {
            System.arraycopy(content, 0, bytes, at, content.length);
            System.arraycopy(content, 0, shadow, at, content.length);
            captures.forEach(moments -> moments.add(bytes.clone()));
        }

        private String attached() {
            return "boot-" + attachment;
        }
    }

    /** One machine and one history on it. */
    private static final class History implements TargetHold.Machine<Disk> {
        private final Random random;
        private final Path folder;
        private final List<Disk> disks = new ArrayList<>();
        private Claims<Integer> claims = new Claims<>();
        private int attachments;
        private int runs;
        private int deeds;
        private int depth;
        private int images;
        private int copies;

        private History(long seed, Path folder) {
            this.random = new Random(seed);
            this.folder = folder;
            // two in a dock that gives both one serial, one of its own, one whose serial is hidden
            for (String serial : List.of("DOCK", random.nextBoolean() ? "DOCK" : "22-HS-2", "22-HS-3",
                random.nextInt(3) == 0 ? "" : "22-HS-4")) {
                disks.add(
                    new Disk(new DiskIdentity("Halden S2", serial, BYTES), "/dev/sd" + (char) ('a' + disks.size()), attachments++, random));
            }
        }

        private List<SeenDisk> seen() {
            List<SeenDisk> bare = disks.stream().map(each -> new SeenDisk(each.attached(), each.attached(), each.path, each.identity, ""))
                .toList();
            return bare.stream().map(each -> each.told(bare)
                ? new SeenDisk(each.identity().serial(), each.attachment(), each.name(), each.identity(), "") : each).toList();
        }

        @Override
        public List<Disk> found(String id) {
            return disks.stream().filter(each -> look(each).disk().id().equals(id)).toList();
        }

        @Override
        public TargetLook look(Disk disk) {
            List<SeenDisk> all = seen();
            SeenDisk mine = all.stream().filter(each -> each.attachment().equals(disk.attached())).findFirst().orElseThrow();
            TargetDisk target = new TargetDisk(mine.id(), disk.path, disk.identity, 512, "usb", TargetDisk.Kind.SPARE, true, false,
                disk.mounted ? "mounted" : "", mine.twins(all).stream().map(SeenDisk::name).toList(),
                List.of(), 1);
            return new TargetLook(target, List.of("begins with " + Arrays.hashCode(Arrays.copyOf(disk.bytes, 4096))));
        }

        @Override
        public boolean same(Disk one, Disk other) {
            return one == other;
        }

        @Override
        public TargetHold.Hold hold(Disk disk) throws IOException {
            if (disk.mounted || disk.holder != 0) {
                throw Fault.of(Fault.Kind.FORBIDDEN, disk.path, disk.path + " is in use").asException();
            }
            int mine = disk.holder = ++runs;
            return () -> {
                if (disk.holder == mine) {
                    disk.holder = 0;
                }
            };
        }

        private List<DeviceClaim> claim(Disk disk, boolean write) {
            Device device = Device.of(disk.identity, look(disk).disk().id(), disk.path);
            return List.of(write ? DeviceClaim.write(device) : DeviceClaim.read(device));
        }

        /** The work of one run, between its claims; what it cannot have it leaves. */
        private void run(List<DeviceClaim> wanted, Work work) throws IOException {
            int run = ++runs;
            Claims<Integer> mine = claims;
            if (mine.take(run, wanted, List.of()).isPresent()) {
                return;
            }
            try {
                work.perform();
            } catch (IOException refusedOrFailed) {
                assertTrue(refusedOrFailed.getMessage() != null);
            } finally {
                mine.free(run);
            }
        }

        private interface Work {
            void perform() throws IOException;
        }

        private final Watch step = new Watch() {
            @Override
            public void advanced(Progress progress) {
                deed();
            }

            @Override
            public boolean stopRequested() {
                return random.nextInt(40) == 0;
            }
        };

        private BlockSource source(Disk disk) {
            int attachment = disk.attachment;
            return new BlockSource() {
                @Override
                public String name() {
                    return disk.path;
                }

                @Override
                public long sizeBytes() {
                    return BYTES;
                }

                @Override
                public int sectorBytes() {
                    return 512;
                }

                @Override
                public void read(long offset, ByteBuffer into) throws IOException {
                    synchronized (disk) {
                        if (disk.attachment != attachment) {
                            throw new IOException("Input/output error");
                        }
                        into.put(disk.bytes, (int) offset, into.remaining());
                    }
                }
            };
        }

        private void capture(Disk disk) throws IOException {
            if (!look(disk).disk().id().equals(disk.attached()) || look(disk).disk().twins().isEmpty()
                && !disk.identity.serial().isEmpty()) {
                run(claim(disk, false), () -> {
                    TargetHold.Hold hold = hold(disk);
                    List<byte[]> moments = new ArrayList<>(List.of(disk.bytes.clone()));
                    disk.captures.add(moments);
                    Path made = null;
                    try (BlockSource source = source(disk)) {
                        made = Capture.run(source, DiskSurvey.of(source, SurveyChoice.ALL_BLOCKS),
                            new CaptureRequest(ImageName.parse("i" + ++runs), Codec.NONE, 0, OptionalLong.empty(), Passphrase.NONE,
                                disk.identity, true),
                            folder, Clock.systemUTC(), step).bag();
                    } finally {
                        disk.captures.removeIf(each -> each == moments);
                        hold.close();
                        if (made != null) {
                            images++;
                            byte[] inside = content(made);
                            assertTrue(moments.stream().anyMatch(moment -> Arrays.equals(moment, inside)),
                                "an image is of no single moment of its disk");
                        }
                    }
                });
            }
        }

        private static byte[] content(Path made) throws IOException {
            Bag bag = Bag.open(made);
            byte[] out = new byte[BYTES];
            try (ImageSource image = new ImageSource(bag, bag.content())) {
                image.read(0, ByteBuffer.wrap(out));
            }
            return out;
        }

        /** What a person confirms may be an hour old when the work begins. */
        private void copy(Disk from, Disk onto) throws IOException {
            TargetLook asked = look(onto);
            if (!new OverwriteRules(asked.disk(), false, Set.of(from.identity.serial()), List.of(), "").refusals().isEmpty()) {
                return;
            }
            Overwriting.Confirmed confirmed = Overwriting.Confirmed.of(asked);
            deed();
            List<DeviceClaim> wanted = new ArrayList<>(claim(onto, true));
            wanted.addAll(claim(from, false));
            run(wanted, () -> {
                try (TargetHold<Disk> held = TargetHold.of(this, confirmed)) {
                    assertEquals(onto.identity, held.disk().identity);
                    assertEquals(confirmed.holds(), look(held.disk()).holds(), "what a person saw on it is not what is overwritten");
                    TargetHold.Hold source = hold(from);
                    try {
                        DiskCopy.bytes(source(from), BYTES, overwritten(held.disk(), held), true, step);
                        copies++;
                    } finally {
                        source.close();
                    }
                }
            });
        }

        private RestoreTarget overwritten(Disk disk, TargetHold<Disk> held) {
            int attachment = disk.attachment;
            String key = Device.of(disk.identity, look(disk).disk().id(), "").key();
            return new RestoreTarget() {
                @Override
                public BlockTarget open() {
                    return new BlockTarget() {
                        @Override
                        public String name() {
                            return disk.path;
                        }

                        @Override
                        public long sizeBytes() {
                            return BYTES;
                        }

                        @Override
                        public boolean startsAsZeros() {
                            return false;
                        }

                        @Override
                        public void write(long offset, ByteBuffer content) throws IOException {
                            byte[] out = new byte[content.remaining()];
                            content.get(out);
                            if (disk.attachment != attachment) {
                                throw new IOException("Input/output error");
                            }
                            assertTrue(
                                claims.held().stream()
                                    .anyMatch(each -> each.use() == DeviceClaim.Use.WRITE && each.device().key().equals(key)),
                                "nobody claimed what is written");
                            assertTrue(claims.held().stream().filter(each -> each.device().key().equals(key)).count() == 1,
                                "somebody else uses what is written");
                            assertTrue(disk.holder != 0 && !disk.mounted && held.disk() == disk);
                            disk.allowed((int) offset, out);
                        }

                        @Override
                        public void flush() {
                        }

                        @Override
                        public void finish() {
                        }

                        @Override
                        public void close() {
                        }
                    };
                }

                @Override
                public BlockSource readBack() {
                    return source(disk);
                }
            };
        }

        private Disk any() {
            return disks.get(random.nextInt(disks.size()));
        }

        private void deed() {
            if (deeds++ > DEEDS || depth >= DEEPEST) {
                return;
            }
            depth++;
            try {
                Disk disk = any();
                switch (random.nextInt(12)) {
                    case 0, 1, 2 -> capture(disk);
                    case 3, 4, 5 -> copy(any(), disk);
                    case 6 -> {
                        if (disk.holder == 0 && !disk.mounted) { // Linux refuses to mount what is held
                            disk.mounted = true;
                            disk.allowed(1080, new byte[] {(byte) random.nextInt()});
                        }
                    }
                    case 7 -> disk.mounted = false;
                    case 8 -> {
                        if (disk.mounted) {
                            disk.allowed(random.nextInt(BYTES), new byte[] {(byte) random.nextInt()});
                        }
                    }
                    case 9 -> {
                        disk.attachment = attachments++;
                        disk.mounted = false;
                        disk.holder = 0;
                    }
                    case 10 -> {
                        Disk other = any();
                        String path = disk.path;
                        disk.path = other.path;
                        other.path = path;
                    }
                    default -> {
                        if (random.nextInt(6) == 0) {
                            throw new Killed();
                        }
                    }
                }
            } catch (IOException failed) {
                assertTrue(failed.getMessage() != null);
            } finally {
                depth--;
            }
        }

        private void play() {
            while (deeds <= DEEDS) {
                try {
                    deed();
                } catch (Killed ended) {
                    claims = new Claims<>();
                    disks.forEach(each -> {
                        each.holder = 0;
                        each.captures.clear();
                    });
                }
                assertEquals(List.of(), claims.held(), "a run that has ended holds nothing");
                disks.forEach(each -> assertTrue(Arrays.equals(each.shadow, each.bytes), "bytes changed that nobody may have written"));
            }
        }
    }

    @Test
    void noDiskIsWrittenThatWasNotClaimedAndNoImageIsOfTwoMoments() throws IOException {
        Path memory = Path.of("/dev/shm");
        Path folder = Files.createTempDirectory(Files.isWritable(memory) ? memory : Path.of(System.getProperty("java.io.tmpdir")),
            "histories-");
        int images = 0;
        int copies = 0;
        try {
            for (long seed = 0; seed < HISTORIES; seed++) {
                Path own = Files.createDirectory(folder.resolve("h" + seed));
                History history = new History(seed, own);
                try {
                    history.play();
                } catch (AssertionError | RuntimeException wrong) {
                    throw new AssertionError("history " + seed + ": " + wrong.getMessage(), wrong);
                }
                images += history.images;
                copies += history.copies;
                Folders.delete(own);
            }
        } finally {
            Folders.delete(folder);
        }
        assertTrue(images > HISTORIES / 4 && copies > HISTORIES / 10,
            "too little came to its end: " + images + " images, " + copies + " copies");
    }
}
