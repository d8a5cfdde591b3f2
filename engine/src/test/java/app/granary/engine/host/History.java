package app.granary.engine.host;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertTrue;
import app.granary.core.claim.Claims;
import app.granary.core.claim.Device;
import app.granary.core.claim.DeviceClaim;
import app.granary.core.disk.BlockSource;
import app.granary.core.disk.DiskIdentity;
import app.granary.core.filesystem.DiskSurvey;
import app.granary.core.filesystem.SurveyChoice;
import app.granary.core.image.ImageName;
import app.granary.core.target.OverwriteRules;
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
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.file.Path;
import java.time.Clock;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.OptionalLong;
import java.util.Random;
import java.util.Set;

/** One machine and one history on it. */
final class History extends HistoryMachine {
    private static final int DEEDS = 7;
    private static final int DEEPEST = 3;

    private final Random random;
    private final Path folder;
    private int attachments;
    private int deeds;
    private int depth;
    int images;
    int copies;

    History(long seed, Path folder) {
        this.random = new Random(seed);
        this.folder = folder;
        // two in a dock that gives both one serial, one of its own, one whose serial is hidden
        for (String serial : List.of("DOCK", random.nextBoolean() ? "DOCK" : "22-HS-2", "22-HS-3",
            random.nextInt(3) == 0 ? "" : "22-HS-4")) {
            disks.add(
                new HistoryDisk(new DiskIdentity("Halden S2", serial, HistoryDisk.BYTES), "/dev/sd" + (char) ('a' + disks.size()),
                attachments++, random));
        }
    }

    private List<DeviceClaim> claim(HistoryDisk disk, boolean write) {
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

    private void capture(HistoryDisk disk) throws IOException {
        if (!look(disk).disk().id().equals(disk.attached()) || look(disk).disk().twins().isEmpty()
            && !disk.identity.serial().isEmpty()) {
            run(claim(disk, false), () -> {
                TargetHold.Hold hold = hold(disk);
                List<byte[]> moments = new ArrayList<>(List.of(disk.bytes.clone()));
                disk.captures.add(moments);
                Path made = null;
                try (BlockSource source = disk.source()) {
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
        byte[] out = new byte[HistoryDisk.BYTES];
        try (ImageSource image = new ImageSource(bag, bag.content())) {
            image.read(0, ByteBuffer.wrap(out));
        }
        return out;
    }

    /** What a person confirms may be an hour old when the work begins. */
    private void copy(HistoryDisk from, HistoryDisk onto) throws IOException {
        TargetLook asked = look(onto);
        if (!new OverwriteRules(asked.disk(), false, Set.of(from.identity.serial()), List.of(), "").refusals().isEmpty()) {
            return;
        }
        Overwriting.Confirmed confirmed = Overwriting.Confirmed.of(asked);
        deed();
        List<DeviceClaim> wanted = new ArrayList<>(claim(onto, true));
        wanted.addAll(claim(from, false));
        run(wanted, () -> {
            try (TargetHold<HistoryDisk> held = TargetHold.of(this, confirmed)) {
                assertEquals(onto.identity, held.disk().identity);
                assertEquals(confirmed.holds(), look(held.disk()).holds(), "what a person saw on it is not what is overwritten");
                TargetHold.Hold source = hold(from);
                try {
                    DiskCopy.bytes(from.source(), HistoryDisk.BYTES, overwritten(held.disk(), held), true, step);
                    copies++;
                } finally {
                    source.close();
                }
            }
        });
    }

    private HistoryDisk any() {
        return disks.get(random.nextInt(disks.size()));
    }

    private void deed() {
        if (deeds++ > DEEDS || depth >= DEEPEST) {
            return;
        }
        depth++;
        try {
            HistoryDisk disk = any();
            switch (random.nextInt(12)) {
                case 0, 1, 2 -> capture(disk);
                case 3, 4, 5 -> copy(any(), disk);
                case 6, 7, 8, 9, 10 -> happen(disk);
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

    /** What people and the system do to a disk meanwhile. */
    private void happen(HistoryDisk disk) {
        switch (random.nextInt(5)) {
            case 0 -> {
                if (disk.holder == 0 && !disk.mounted) { // Linux refuses to mount what is held
                    disk.mounted = true;
                    disk.allowed(1080, new byte[] {(byte) random.nextInt()});
                }
            }
            case 1 -> disk.mounted = false;
            case 2 -> {
                if (disk.mounted) {
                    disk.allowed(random.nextInt(HistoryDisk.BYTES), new byte[] {(byte) random.nextInt()});
                }
            }
            case 3 -> {
                disk.attachment = attachments++;
                disk.mounted = false;
                disk.holder = 0;
            }
            default -> {
                HistoryDisk other = any();
                String path = disk.path;
                disk.path = other.path;
                other.path = path;
            }
        }
    }

    void play() {
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

    /** The program was ended. */
    private static final class Killed extends RuntimeException {
        private static final long serialVersionUID = 1;
    }
}
