package app.granary.standins;

import app.granary.core.disk.BlockSource;
import app.granary.core.disk.DiskIdentity;
import app.granary.core.disk.Extents;
import app.granary.core.fault.Fault;
import app.granary.core.filesystem.DiskSurvey;
import app.granary.core.filesystem.SurveyChoice;
import app.granary.core.image.ImageName;
import app.granary.core.preflight.Power;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.channels.FileChannel;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.OptionalInt;
import java.util.OptionalLong;
import java.util.Set;
import java.util.TreeSet;
import java.util.concurrent.ConcurrentHashMap;
import java.util.stream.Stream;

/**
 * What can be made to go wrong in the made-up office: drives that are pulled, full or slow, disks that wear out, bytes that flip. All off
 * at the start.
 */
final class StandInFaults implements Switchboard {
    private static final String UNPLUG = "unplug";
    private static final String FULL = "full";
    private static final String SLOW = "slow";
    private static final String FLIP = "flip";
    private static final String WORN = "worn";
    static final String OFF = "off";
    private static final String SWAP = "swap";
    private static final String ADAPTER = "adapter";
    private static final String ALIKE = "alike";
    private static final String LOCKED = "locked";
    private static final String CORD = "cord:this-machine";
    /** A slow link has this share of its rate left. */
    private static final int SLOWER = 20;
    private static final int WORN_SECTORS = 3;
    /** The disk whose serial a dock gives to others too. */
    private static final String DOCK = "spare-1";
    private static final int CHARGE = 31;
    /** A drive pulled out loses what it had not written down yet; this much of a part at most. */
    private static final int NOT_WRITTEN_DOWN = 40_000;

    private final Path drives;
    /** How often each was plugged in again. */
    private final Map<String, Integer> pluggedIn = new ConcurrentHashMap<>();
    private final Set<String> on = ConcurrentHashMap.newKeySet();
    private volatile Listener listener = (id, now) -> {
    };

    /** Whoever has to know what was switched. */
    interface Listener {
        void turned(String id, boolean on) throws IOException;
    }

    StandInFaults(Path drives) {
        this.drives = drives;
    }

    @Override
    public List<Switch> switches() {
        List<Switch> out = new ArrayList<>();
        for (StandInDrive drive : MarrowbySurveyOffice.DRIVES) {
            if (drive.attached()) {
                add(out, UNPLUG, drive.id(), drive.name(), "pulled out without a word");
                add(out, FULL, drive.id(), drive.name(), "filled to its last byte by someone else");
                add(out, SLOW, drive.id(), drive.name(), "on a link a twentieth as fast");
                add(out, FLIP, drive.id(), drive.name(), "one byte of its newest image flips");
            }
        }
        for (StandInDisk disk : MarrowbySurveyOffice.DISKS) {
            add(out, ADAPTER, disk.id(), disk.computer() + " " + disk.name(), "in an adapter that hides its serial number");
            add(out, WORN, disk.id(), disk.computer() + " " + disk.name(), WORN_SECTORS + " sectors in use cannot be read");
        }
        for (StandInTarget target : StandInTarget.ALL) {
            add(out, UNPLUG, target.id(), target.name(), "dies, or is pulled out, in the middle of the work");
            add(out, SLOW, target.id(), target.name(), "on a link a twentieth as fast, from the next work on");
            add(out, SWAP, target.id(), target.name(), "another disk of its kind is plugged in in its place");
            if (target.kind() == app.granary.core.target.TargetDisk.Kind.SPARE && !target.id().equals(DOCK)) {
                add(out, ALIKE, target.id(), target.name(), "in a dock that gives it the serial of " + StandInTarget.of(DOCK).name());
            }
            if (target.kind() == app.granary.core.target.TargetDisk.Kind.STICK) {
                add(out, LOCKED, target.id(), target.name(), "its write-protect switch is on");
            }
        }
        for (MarrowbySurveyOffice.Desk desk : MarrowbySurveyOffice.DESKS) {
            add(out, OFF, desk.name(), desk.name(), "is switched off");
        }
        out.add(new Switch(CORD, "This machine", "its power cord is pulled; the battery has " + CHARGE + " %", on.contains(CORD), false));
        return out;
    }

    private void add(List<Switch> out, String kind, String device, String name, String what) {
        String id = kind + ":" + device;
        out.add(new Switch(id, name, what, on.contains(id), kind.equals(FLIP)));
    }

    @Override
    public void turn(String id, boolean now) throws IOException {
        if (switches().stream().noneMatch(each -> each.id().equals(id))) {
            throw Fault.of(Fault.Kind.BAD_CHOICE, id, "There is no such fault to switch. Choose one of those listed.").asException();
        }
        if (id.startsWith(FLIP + ":")) {
            if (now) {
                flip(drives.resolve(id.substring(FLIP.length() + 1)));
            }
        } else if (now) {
            if (on.add(id) && id.startsWith(ADAPTER + ":")) {
                pluggedIn.merge(ADAPTER + id.substring(ADAPTER.length() + 1), 1, Integer::sum);
            }
        } else if (on.remove(id) && id.startsWith(UNPLUG + ":")) {
            pluggedIn.merge(id.substring(UNPLUG.length() + 1), 1, Integer::sum);
        }
        listener.turned(id, now);
    }

    void listen(Listener whoever) {
        listener = whoever;
    }

    /** Those that are on and happen to one device. */
    List<String> onFor(String device) {
        return on.stream().filter(id -> id.endsWith(":" + device)).sorted().toList();
    }

    /** Of this attachment: another each time it is plugged in. */
    String attachment(String device) {
        return device + "-" + pluggedIn.getOrDefault(device, 0);
    }

    boolean adapted(String disk) {
        return on.contains(ADAPTER + ":" + disk);
    }

    /** A disk as it is called in an adapter. */
    String adapter(String disk) {
        return disk + "-in-an-adapter-" + pluggedIn.getOrDefault(ADAPTER + disk, 0);
    }

    /** What it answers: a disk in a dock may say what the dock says. */
    DiskIdentity identity(StandInTarget target) {
        String serial = on.contains(ALIKE + ":" + target.id()) ? StandInTarget.of(DOCK).serial() : target.serial();
        return new DiskIdentity(target.model(), swapped(target.id()) ? serial + "X" : serial, target.sizeBytes());
    }

    Power power() {
        return on.contains(CORD) ? new Power(true, OptionalInt.of(CHARGE), OptionalLong.empty()) : Power.MAINS;
    }

    /** Switches a computer off, or on again. */
    void power(String computer, boolean off) {
        if (off) {
            on.add(OFF + ":" + computer);
        } else {
            on.remove(OFF + ":" + computer);
        }
    }

    boolean off(String computer) {
        return on.contains(OFF + ":" + computer);
    }

    boolean swapped(String target) {
        return on.contains(SWAP + ":" + target);
    }

    boolean protectedFromWriting(String target) {
        return on.contains(LOCKED + ":" + target);
    }

    boolean unplugged(String drive) {
        return on.contains(UNPLUG + ":" + drive);
    }

    boolean full(String drive) {
        return on.contains(FULL + ":" + drive);
    }

    long rate(String drive, long bytes) {
        return on.contains(SLOW + ":" + drive) ? Math.max(1, bytes / SLOWER) : bytes;
    }

    /** Fails as the operating system would. */
    void requireWorking(String drive, boolean writing) throws IOException {
        if (unplugged(drive)) {
            throw new IOException("Input/output error");
        }
        if (writing && full(drive)) {
            throw new IOException("No space left on device");
        }
    }

    /** What the drive had not written down when it was pulled out. */
    void tearOff(Path partial) throws IOException {
        List<Path> parts = parts(partial);
        if (!parts.isEmpty()) {
            Path last = parts.get(parts.size() - 1);
            try (FileChannel file = FileChannel.open(last, StandardOpenOption.WRITE)) {
                file.truncate(Math.max(0, file.size() - Math.min(NOT_WRITTEN_DOWN, file.size() / 3)));
            }
        }
    }

    private static List<Path> parts(Path bag) throws IOException {
        if (!Files.isDirectory(bag.resolve("data"))) {
            return List.of();
        }
        try (Stream<Path> files = Files.list(bag.resolve("data"))) {
            return files.filter(file -> file.getFileName().toString().startsWith("disk.img")).sorted().toList();
        }
    }

    private static void flip(Path drive) throws IOException {
        List<Path> images;
        try (Stream<Path> entries = Files.list(drive)) {
            images = entries
                .filter(path -> Files.isDirectory(path.resolve("data")) && !path.getFileName().toString().endsWith(ImageName.PARTIAL))
                .sorted(Comparator.comparingLong((Path path) -> path.toFile().lastModified()).reversed()).toList();
        }
        if (images.isEmpty() || parts(images.get(0)).isEmpty()) {
            throw Fault.of(Fault.Kind.BAD_CHOICE, drive.getFileName().toString(),
                "There is no image on that drive yet whose bytes could flip. Make one first.").asException();
        }
        List<Path> parts = parts(images.get(0));
        Path part = parts.get(parts.size() / 2);
        turnBit(part, Files.size(part) * 3 / 5);
    }

    static void turnBit(Path part, long at) throws IOException {
        PastImages.ownBytes(part);
        try (FileChannel file = FileChannel.open(part, StandardOpenOption.READ, StandardOpenOption.WRITE)) {
            ByteBuffer one = ByteBuffer.allocate(1);
            file.read(one, at);
            one.put(0, (byte) (one.get(0) ^ 0x10)).flip();
            file.write(one, at);
        }
    }

    /** The disk, or, when it is worn, the disk with a few sectors of its largest partition's content that cannot be read. */
    BlockSource worn(StandInDisk disk, BlockSource source) throws IOException {
        if (!on.contains(WORN + ":" + disk.id())) {
            return source;
        }
        Extents used = DiskSurvey.of(source, SurveyChoice.USED).partitions().stream().map(p -> p.toRead())
            .max(Comparator.comparingLong(Extents::totalBytes)).orElse(Extents.NONE);
        TreeSet<Long> sectors = new TreeSet<>();
        for (int i = 0; i < WORN_SECTORS && !used.isEmpty(); i++) {
            sectors.add(byteOf(used, used.totalBytes() * (1 + i) / (1 + WORN_SECTORS)) / source.sectorBytes());
        }
        return new WornDisk(source, sectors);
    }

    private static long byteOf(Extents ranges, long number) {
        long left = number;
        for (int i = 0; i < ranges.count(); i++) {
            long length = ranges.end(i) - ranges.start(i);
            if (left < length) {
                return ranges.start(i) + left;
            }
            left -= length;
        }
        return ranges.end(ranges.count() - 1) - 1;
    }
}
