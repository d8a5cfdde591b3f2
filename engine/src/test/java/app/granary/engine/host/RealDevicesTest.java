package app.granary.engine.host;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertThrows;
import static org.junit.jupiter.api.Assertions.assertTrue;

import app.granary.core.destination.Destination;
import app.granary.core.fault.Fault;
import app.granary.core.fault.FaultException;
import app.granary.core.filesystem.SurveyChoice;
import app.granary.core.inventory.Firmware;
import app.granary.core.layout.LayoutChoice;
import app.granary.core.proof.ProofLevel;
import app.granary.core.target.Preparation;
import app.granary.core.target.TargetLook;
import app.granary.engine.bag.Bag;
import app.granary.engine.bag.ImageSource;
import app.granary.engine.codec.Codec;
import app.granary.engine.media.Tools;
import app.granary.engine.progress.Watch;
import app.granary.engine.host.Overwriting.Confirmed;
import app.granary.engine.host.Overwriting.From;
import app.granary.engine.host.Overwriting.How;
import app.granary.engine.source.DeviceHold;
import app.granary.engine.source.RawSource;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.util.ArrayList;
import java.util.List;
import java.util.OptionalLong;
import java.util.Random;
import java.util.Set;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Assumptions;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Tag;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/**
 * Real block devices: loop devices over files, where root may make them. What holds them is the Linux kernel's own doing (open(2),
 * "O_EXCL"; mount(8), swapon(8)).
 */
@Tag("large")
class RealDevicesTest {
    @TempDir
    Path folder;
    private final List<Path> loops = new ArrayList<>();
    private final List<String> undo = new ArrayList<>();

    @BeforeEach
    void onlyWhereRootMay() {
        String may = Tools.run(folder, "[ $(id -u) = 0 ] && losetup -f > /dev/null 2>&1 && echo yes || echo no").strip();
        if (may.equals("no")) {
            System.out.println("RealDevicesTest is skipped: this account may make no loop devices here");
        }
        Assumptions.assumeTrue(may.equals("yes"), "no loop devices here");
    }

    private Path loop(String name) {
        Path loop = Path.of(Tools.run(folder, "truncate -s 150M " + name + "; losetup -fP --show " + name).strip());
        loops.add(loop);
        return loop;
    }

    /**
     * A partition of a loop device is told to the kernel by partx(8); its file in /dev is made by a service that not every machine runs.
     */
    private String node(Path disk, int number) {
        undo.add("partx -d " + disk);
        undo.add("[ ! -e made-" + disk.getFileName() + "p" + number + " ] || rm -f " + disk + "p" + number);
        return "p=" + disk + "p" + number + "; [ -e /sys/class/block/$(basename $p) ] || partx -a " + disk
            + "; [ -e $p ] || { mknod $p b $(tr : ' ' < /sys/class/block/$(basename $p)/dev); touch made-$(basename $p); }; ";
    }

    private void mounted(String device, String at) {
        Tools.run(folder, "mkdir -p " + at + "; mount " + device + " " + at);
        undo.add("umount " + at);
    }

    @AfterEach
    void detach() {
        for (int i = undo.size() - 1; i >= 0; i--) {
            Tools.run(folder, undo.get(i) + " 2>&1 || true");
        }
        loops.forEach(loop -> Tools.run(folder, "losetup -d " + loop + " 2>&1 || true"));
    }

    private static String refusal(Path device) {
        FaultException refused = assertThrows(FaultException.class, () -> {
            try (DeviceHold held = BlockDevices.hold(device)) {
                assertTrue(held != null);
            }
        }, device.toString());
        assertEquals(Fault.Kind.FORBIDDEN, refused.fault().kind());
        assertTrue(refused.getMessage().contains(device + " is in use"), refused.getMessage());
        return refused.getMessage();
    }

    /** Nothing but the first member is in the list of mounts. */
    @Test
    void everyMemberOfAMountedSetOfDisksIsInUse() throws IOException {
        Path one = loop("one");
        Path two = loop("two");
        Tools.run(folder, "mkfs.btrfs -q -f " + one + " " + two + " 2>&1");
        try (DeviceHold held = BlockDevices.hold(two)) {
            assertTrue(held != null, "while it is not mounted it is free");
        }
        mounted(one.toString(), "mnt");
        refusal(one);
        assertTrue(refusal(two).contains("set of disks"));
        try (RawSource source = RawSource.open(two)) {
            assertTrue(assertThrows(FaultException.class, () -> BlockDevices.identify(two, source).requireIdle()).getMessage()
                .contains("is in use"));
        }
    }

    /** On the page a member of a mounted set could be overwritten, and copied as a spare's source while the other member was written. */
    @Test
    void aMemberOfAMountedSetIsNeitherTargetNorSourceOfAPage() throws IOException {
        Path one = loop("one");
        Path two = loop("two");
        Path spare = loop("spare");
        Tools.run(folder, "mkfs.btrfs -q -f " + one + " " + two + " 2>&1; printf 'label: gpt\\ntype=L\\n' | sfdisk -q " + spare);
        MachineHost site = new MachineHost("here", folder.resolve("disks"), folder.resolve("images"), folder.resolve("scratch"),
            Clock.systemUTC(), Set.of("loop"));
        TargetLook member = target(site, two);
        assertEquals("", member.disk().inUse());
        assertTrue(member.holds().get(0).startsWith("no partition table; the whole disk is btrfs"), member.holds().toString());
        // only for reading, so that the file system itself writes nothing while it is looked at
        Tools.run(folder, "mkdir mnt; mount -o ro " + one + " mnt");
        undo.add("umount mnt");
        assertTrue(target(site, two).disk().inUse().contains("set of disks"));
        String twoId = site.devices().computers().get(0).disks().stream().filter(each ->
            each.name().equals(two.toString())).findFirst().orElseThrow()
            .id();
        String spareId = site.devices().computers().get(0).disks().stream().filter(each -> each.name().equals(spare.toString())).findFirst()
            .orElseThrow().id();
        How how = new How(false, false, false, false);
        String before = Tools.run(folder, "sha256sum < " + two);
        for (var wrong : List.of(List.of(spareId, member), List.of(twoId, target(site, spare)))) {
            FaultException refused = assertThrows(FaultException.class,
                () -> site.overwriting().write(new From.Disk((String) wrong.get(0)), Confirmed.of((TargetLook) wrong.get(1)),
                    Firmware.UNKNOWN, LayoutChoice.of(LayoutChoice.Strategy.KEEP), how, Watch.NONE));
            assertTrue(refused.getMessage().contains(two + " ") && refused.getMessage().contains("in use"), refused.getMessage());
        }
        assertThrows(FaultException.class,
            () -> site.overwriting().prepare(new Preparation(Preparation.Scheme.GPT, Preparation.StoreFileSystem.EXT4, "PEG-9", 0),
                Confirmed.of(member), new Random(1), Watch.NONE));
        assertEquals(before, Tools.run(folder, "sha256sum < " + two));
    }

    private static TargetLook target(MachineHost site, Path device) throws IOException {
        return site.overwriting().target(site.overwriting().targets().stream().filter(each -> each.name().equals(device.toString()))
            .findFirst().orElseThrow().id());
    }

    /** A file was read and written while a loop device, or another program, had it. */
    @Test
    void aFileThatSomethingElseUsesIsInUse() throws Exception {
        Path loop = loop("backing");
        Path file = folder.resolve("backing");
        assertTrue(assertThrows(FaultException.class, () -> BlockDevices.hold(file)).getMessage().contains(loop + " is made of it"));
        Path other = folder.resolve("other");
        Tools.run(folder, "truncate -s 1M other");
        Process holder = new ProcessBuilder("python3", "-c",
            "import fcntl,sys\nf=open('other','r+')\nfcntl.lockf(f,fcntl.LOCK_EX)\nprint('held',flush=True)\nsys.stdin.read()")
            .directory(folder.toFile()).start();
        try {
            assertEquals("held", holder.inputReader().readLine());
            assertTrue(
                assertThrows(FaultException.class, () -> BlockDevices.hold(other)).getMessage().contains("another program has it locked"));
        } finally {
            holder.destroy();
            holder.waitFor();
        }
        try (DeviceHold held = BlockDevices.hold(other)) {
            assertTrue(held != null);
            try (RawSource source = RawSource.open(other)) {
                source.read(0, ByteBuffer.allocate(512));
            }
            assertEquals("", BlockDevices.heldBy(other), "our own run");
            assertTrue(
                Tools
                    .run(folder,
                        "python3 -c \"import fcntl; fcntl.lockf(open('other','r+'), fcntl.LOCK_EX|fcntl.LOCK_NB)\" 2>&1 || echo refused")
                    .contains("refused"),
                "closing another descriptor takes nothing away");
        }
    }

    /** A disk that goes by no serial got its path as its name: the next one on that path was taken for it. */
    @Test
    void anotherDiskOnTheSamePathIsAnotherAttachment() throws IOException {
        Path first = loop("first");
        MachineHost site = new MachineHost("here", folder.resolve("disks"), folder.resolve("images"), folder.resolve("scratch"),
            Clock.systemUTC(), Set.of("loop"));
        TargetLook confirmed = target(site, first);
        Tools.run(folder, "losetup -d " + first + "; truncate -s 150M second; losetup " + first + " second");
        assertTrue(!target(site, first).disk().id().equals(confirmed.disk().id()));
        FaultException refused = assertThrows(FaultException.class,
            () -> site.overwriting().prepare(new Preparation(Preparation.Scheme.GPT, Preparation.StoreFileSystem.EXT4, "PEG-9", 0),
                Confirmed.of(confirmed), new Random(1), Watch.NONE));
        assertTrue(refused.getMessage().contains("not attached any more"), refused.getMessage());
    }

    /**
     * An image of one partition onto another of the same disk: the other stays mounted, the one that is read is held meanwhile, and one
     * that is in use is refused. What is read is what debugfs and cmp see there.
     */
    @Test
    void aQuickRollBackImageGoesOntoAnotherPartitionOfTheDisk() throws IOException {
        Path disk = loop("own");
        Tools.run(folder, "printf 'label: gpt\\nsize=40M,type=L\\ntype=L\\n' | sfdisk -q " + disk + "; " + node(disk, 1) + node(disk, 2)
            + "head -c 3000000 /dev/urandom > a; mkfs.ext4 -q -F -d . " + disk + "p1 2>&1; mkfs.ext4 -q -F " + disk + "p2");
        mounted(disk + "p2", "data");
        MachineHost site = new MachineHost("here", folder.resolve("disks"), folder.resolve("images"), folder.resolve("scratch"),
            Clock.systemUTC(), Set.of("loop"), List.of(folder.resolve("data")));
        String id = site.devices().computers().get(0).disks().stream().filter(each -> each.name().contains(disk.getFileName().toString()))
            .findFirst().orElseThrow().id();
        Destination data = site.store().destinations().stream().filter(each -> each.place().endsWith(folder.resolve("data").toString()))
            .findFirst().orElseThrow();
        assertEquals(2, data.partition().getAsInt());
        Storage all = new Storage(Codec.ZSTD, 3, OptionalLong.empty(), SurveyChoice.USED);
        assertTrue(assertThrows(FaultException.class, () -> site.imaging().capture(id, data.id(), "own", all, Watch.NONE)).getMessage()
            .contains("Leave that partition out"));
        Storage beside = new Storage(Codec.ZSTD, 3, OptionalLong.empty(), new SurveyChoice(false, false, Set.of(2)));
        mounted(disk + "p1", "system");
        assertTrue(assertThrows(FaultException.class, () -> site.imaging().capture(id, data.id(), "own", beside, Watch.NONE)).getMessage()
            .contains("partition 1 is in use: mounted at"));
        // what was read of the whole disk before stays in the system's memory as long as any partition of it is mounted
        Tools.run(folder, "cat " + disk + " > /dev/null; head -c 3000000 /dev/urandom > b; cp b system/b; cp b system/a; umount system");
        HostImage made = site.imaging().capture(id, data.id(), "own", beside, Watch.NONE);
        assertEquals(ProofLevel.READABLE, made.check().level());
        assertEquals(List.of("partition 2"), made.lacks().parts());
        ByteBuffer part = ByteBuffer.allocate(40 << 20);
        Bag bag = Bag.open(Path.of(made.location()));
        try (ImageSource image = new ImageSource(bag, bag.content())) {
            image.read(1 << 20, part);
        }
        Files.write(folder.resolve("part.img"), part.array());
        Tools.run(folder, "e2fsck -fn part.img; for f in a b; do debugfs -R \"cat /$f\" part.img 2>/dev/null | cmp - b; done");
    }

    @Test
    void swapAndAMountedPartitionAreUsesOfTheWholeDisk() {
        Path swap = loop("swap");
        Tools.run(folder, "mkswap -q " + swap + "; swapon " + swap);
        undo.add("swapoff " + swap);
        refusal(swap);
        Path disk = loop("disk");
        Tools.run(folder, "printf 'label: gpt\\nsize=60M,type=L\\ntype=L\\n' | sfdisk -q " + disk + "; " + node(disk, 2)
            + "mkfs.ext4 -q -F " + disk + "p2");
        mounted(disk + "p2", "part");
        assertTrue(refusal(disk).contains("mounted at " + folder.resolve("part")));
    }

    /** Neither the disk nor a partition of it; reading and writing go on beside it. */
    @Test
    void whatIsHeldCannotBeMountedByAnyone() throws IOException {
        Path disk = loop("disk");
        Tools.run(folder, "printf 'label: gpt\\ntype=L\\n' | sfdisk -q " + disk + "; " + node(disk, 1) + "mkfs.ext4 -q -F " + disk
            + "p1; mkdir part");
        try (DeviceHold held = BlockDevices.hold(disk); RawSource source = RawSource.open(disk)) {
            assertTrue(held != null);
            assertTrue(Tools.run(folder, "mount " + disk + "p1 part 2>&1 && echo mounted || true").contains("busy"),
                "its partition was mounted");
            source.read(0, ByteBuffer.allocate(512));
            Tools.run(folder, "printf x | dd of=" + disk + " bs=1 seek=100 conv=notrunc status=none");
            refusal(disk);
        }
        mounted(disk + "p1", "part");
    }
}
