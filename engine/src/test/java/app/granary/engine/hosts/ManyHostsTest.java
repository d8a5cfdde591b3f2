package app.granary.engine.hosts;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertFalse;
import static org.junit.jupiter.api.Assertions.assertThrows;
import static org.junit.jupiter.api.Assertions.assertTrue;

import app.granary.core.destination.Destination;
import app.granary.core.fault.FaultException;
import app.granary.core.filesystem.SurveyChoice;
import app.granary.core.inventory.Firmware;
import app.granary.core.layout.LayoutChoice;
import app.granary.core.machine.Machine;
import app.granary.core.proof.ProofLevel;
import app.granary.engine.codec.Codec;
import app.granary.engine.host.Host;
import app.granary.engine.host.HostImage;
import app.granary.engine.host.ImageAt;
import app.granary.engine.host.MachineHost;
import app.granary.engine.host.Overwriting.Confirmed;
import app.granary.engine.host.Overwriting.From;
import app.granary.engine.host.Overwriting.How;
import app.granary.engine.host.RemoteFolders;
import app.granary.engine.host.Storage;
import app.granary.engine.media.Medium;
import app.granary.engine.media.Tools;
import app.granary.engine.progress.Watch;
import app.granary.engine.remote.RemoteFileSystem;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalLong;
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Tag;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** An office's machine and two laptops, each with a disk, a drive and an empty disk to write to. */
@Tag("large")
class ManyHostsTest {
    private static final Storage USUAL = new Storage(Codec.ZSTD, 1, OptionalLong.empty(), SurveyChoice.USED);
    private static final String HOME_DRIVE = "granary-folder";

    @TempDir
    Path folder;
    private final Map<String, RemoteFolders.Folder> lent = new ConcurrentHashMap<>();
    private final List<Member> members = new ArrayList<>();
    private ManyHosts office;

    @BeforeEach
    void threeMachines() throws IOException {
        Path medium = Medium.GPT_EXT4_AND_FAT.make(folder);
        Host home = new MachineHost("office", disks("office", medium), folder.resolve("office/images"), folder.resolve("office/scratch"),
            Clock.systemUTC());
        for (String name : List.of("TARN", "FELL")) {
            Path drive = Files.createDirectories(folder.resolve(name + "/drive-of-" + name));
            members.add(new Member(new Machine(name, name, Optional.empty()), MachineHost.forAnOffice(name, disks(name, medium),
                List.of(drive), Set.of(), this::lent,
                folder.resolve(name + "/scratch"), Clock.systemUTC())));
        }
        office = new ManyHosts(home, () -> members, (to, lending) -> {
            String id = "remote/" + to.id() + "/" + lending.images();
            Path root = new RemoteFileSystem(lending.files(), "the office").root();
            lent.put(id, new RemoteFolders.Folder(root, root.resolve(lending.images())));
            return new Serving.Served() {
                @Override
                public String destinationId() {
                    return id;
                }

                @Override
                public void close() throws IOException {
                    lent.remove(id);
                    lending.close();
                }
            };
        });
    }

    /** By the name of the folder, or of a file in it. */
    private Optional<RemoteFolders.Folder> lent(String id) {
        return lent.keySet().stream().filter(id::startsWith).findFirst().map(lent::get)
            .map(found -> id.endsWith("/" + found.images().getFileName()) || lent.containsKey(id) ? found
                : new RemoteFolders.Folder(found.root(), found.root().resolve(id.substring(id.lastIndexOf('/') + 1))));
    }

    private Path disks(String machine, Path medium) throws IOException {
        Path raw = Files.createDirectories(folder.resolve(machine).resolve("disks"));
        Files.copy(medium, raw.resolve("own.img"));
        Path targets = Files.createDirectories(folder.resolve(machine).resolve(machine.equals("office") ? "targets" : "disks"));
        Tools.run(targets, "truncate -s 200M spare-of-" + machine + ".img");
        return raw;
    }

    private String diskIn(String machine) throws IOException {
        return office.devices().computers().stream().filter(each -> each.name().equals(machine)).flatMap(each -> each.disks().stream())
            .filter(each -> each.name().equals("own.img")).findFirst().orElseThrow().id();
    }

    private String driveIn(String machine) throws IOException {
        return office.store().destinations().stream().filter(each -> each.name().equals("drive-of-" + machine)).map(Destination::id)
            .findFirst().orElseThrow();
    }

    private Confirmed spareIn(String machine) throws IOException {
        String id = office.overwriting().targets().stream().filter(each -> each.name().equals("spare-of-" + machine + ".img")).findFirst()
            .orElseThrow().id();
        return Confirmed.of(office.overwriting().target(id));
    }

    private void capture(String machine, String drive, String name) throws IOException {
        assertTrue(office.imaging().capture(diskIn(machine), drive, name, USUAL, Watch.NONE).check().ok());
    }

    private void restore(ImageAt image, String machine) throws IOException {
        From from = new From.Image(image);
        Confirmed to = spareIn(machine);
        assertTrue(office.overwriting().layout(from, to.targetId(), Firmware.UEFI, LayoutChoice.KEEP).fits());
        assertEquals(List.of(), office.overwriting().write(from, to, Firmware.UEFI, LayoutChoice.KEEP, new How(false, false, true, false),
            Watch.NONE).differences());
        Tools.run(folder, "sgdisk -v " + machine + "/*/spare-of-" + machine + ".img | grep 'No problems found'");
    }

    @Test
    void eachThingIsDoneWhereTheDeviceIsAndTheOfficeLendsItsDrives() throws IOException {
        assertEquals("in TARN", office.store().destinations().stream().filter(each -> each.name().equals("drive-of-TARN")).findFirst()
            .orElseThrow().place());
        HostImage made = office.imaging().capture(diskIn("TARN"), HOME_DRIVE, "tarn", USUAL, Watch.NONE);
        assertEquals(folder.resolve("office/images/tarn").toString(), made.location());
        Tools.run(folder.resolve("office/images/tarn"), "sha256sum -c manifest-sha256.txt && zstd -t data/*zst*");
        capture("TARN", driveIn("TARN"), "own");
        Tools.run(folder.resolve("TARN/drive-of-TARN/granary-images/own"), "sha256sum -c manifest-sha256.txt");
        restore(ImageAt.of(HOME_DRIVE, "tarn"), "FELL");
        restore(ImageAt.of(driveIn("TARN"), "own"), "TARN");
        assertTrue(office.imaging().copy(ImageAt.of(HOME_DRIVE, "tarn"), driveIn("FELL"), Watch.NONE).ok());
        assertTrue(office.imaging().copy(ImageAt.of(driveIn("TARN"), "own"), HOME_DRIVE, Watch.NONE).ok());
        Tools.run(folder, "diff -r office/images/tarn FELL/drive-of-FELL/granary-images/tarn");
        Tools.run(folder, "diff -r office/images/own TARN/drive-of-TARN/granary-images/own");
        assertEquals(Map.of(), lent, "nothing stays lent");
        assertTrue(office.imaging().check(ImageAt.of(driveIn("FELL"), "tarn"), ProofLevel.READABLE, Watch.NONE).ok());
        assertEquals(office.store().facts(ImageAt.of(HOME_DRIVE, "tarn")), office.store().facts(ImageAt.of(driveIn("FELL"), "tarn")));
    }

    @Test
    void aDamagedCopyIsRepairedFromTheOneAtAnotherMachine() throws IOException {
        capture("TARN", HOME_DRIVE, "tarn");
        office.imaging().copy(ImageAt.of(HOME_DRIVE, "tarn"), driveIn("TARN"), Watch.NONE);
        for (String harmed : List.of("office/images/tarn", "TARN/drive-of-TARN/granary-images/tarn")) {
            Tools.run(folder.resolve(harmed).resolve("data"),
                "printf xxxx | dd of=$(ls disk.img*) bs=1 seek=5000 conv=notrunc status=none");
            ImageAt home = ImageAt.of(HOME_DRIVE, "tarn");
            ImageAt there = ImageAt.of(driveIn("TARN"), "tarn");
            boolean homeIsHarmed = harmed.startsWith("office");
            ImageAt damaged = homeIsHarmed ? home : there;
            assertFalse(office.imaging().check(damaged, ProofLevel.SOUND, Watch.NONE).ok());
            assertTrue(office.imaging().repair(damaged, homeIsHarmed ? there : home, ProofLevel.SOUND, Watch.NONE).check().ok());
            Tools.run(folder.resolve(harmed), "sha256sum -c manifest-sha256.txt");
        }
    }

    /** By way of the office, whichever two machines have the disk and the drive. */
    @Test
    void whatIsAtTwoMachinesIsLentByTheOneToTheOther() throws IOException {
        HostImage made = office.imaging().capture(diskIn("office"), driveIn("TARN"), "office", USUAL, Watch.NONE);
        assertEquals(folder.resolve("TARN/drive-of-TARN/granary-images/office").toString(), made.location());
        Tools.run(folder.resolve("TARN/drive-of-TARN/granary-images/office"), "sha256sum -c manifest-sha256.txt && zstd -t data/*zst*");
        capture("FELL", driveIn("TARN"), "fell");
        assertTrue(office.imaging().copy(ImageAt.of(driveIn("TARN"), "fell"), driveIn("FELL"), Watch.NONE).ok());
        Tools.run(folder, "diff -r TARN/drive-of-TARN/granary-images/fell FELL/drive-of-FELL/granary-images/fell");
        restore(ImageAt.of(driveIn("TARN"), "fell"), "FELL");
        restore(ImageAt.of(driveIn("TARN"), "fell"), "office");
        Tools.run(folder.resolve("TARN/drive-of-TARN/granary-images/fell/data"),
            "printf xxxx | dd of=$(ls disk.img*) bs=1 seek=5000 conv=notrunc status=none");
        assertTrue(office.imaging().repair(ImageAt.of(driveIn("TARN"), "fell"), ImageAt.of(driveIn("FELL"), "fell"), ProofLevel.SOUND,
            Watch.NONE).check().ok());
        Tools.run(folder, "diff -r TARN/drive-of-TARN/granary-images/fell FELL/drive-of-FELL/granary-images/fell");
        Path stick = Files.createDirectories(folder.resolve("office/rescue")).resolve("system.iso");
        Tools.run(folder, "head -c 3000000 /dev/urandom > office/rescue/system.iso");
        assertEquals(List.of(), office.overwriting().writeRaw("system.iso", spareIn("TARN"), Watch.NONE).differences());
        Tools.run(folder, "cmp -n 3000000 " + stick + " TARN/disks/spare-of-TARN.img");
        assertEquals(Map.of(), lent, "nothing stays lent");
    }

    @Test
    void whatNeedsTwoMachinesAtOnceOrIsToldOfTwiceIsRefusedAndSaysWhatToDo() throws IOException {
        String toldTwice = diskIn("FELL");
        for (org.junit.jupiter.api.function.Executable apart : List.<org.junit.jupiter.api.function.Executable>of(
            () -> office.overwriting().layout(new From.Disk(diskIn("TARN")), spareIn("FELL").targetId(), Firmware.UEFI, LayoutChoice.KEEP),
            () -> office.overwriting().writeRaw("no such file", spareIn("FELL"), Watch.NONE),
            () -> office.overwriting().writeRaw("../disks/own.img", spareIn("FELL"), Watch.NONE),
            () -> office.overwriting().writeRaw("/", spareIn("FELL"), Watch.NONE),
            () -> office.overwriting().writeRaw("a\0b", spareIn("FELL"), Watch.NONE),
            () -> office.imaging().capture("no such disk", HOME_DRIVE, "x", USUAL, Watch.NONE))) {
            String sentence = assertThrows(FaultException.class, apart).fault().sentence();
            assertTrue(sentence.length() > 30 && sentence.endsWith("."), sentence);
        }
        members.add(new Member(new Machine("OTHER", "OTHER", Optional.empty()), MachineHost.forAnOffice("FELL",
            folder.resolve("FELL/disks"), List.of(), Set.of(),
            RemoteFolders.NONE, folder.resolve("OTHER"), Clock.systemUTC())));
        String twice = assertThrows(FaultException.class,
            () -> office.imaging().capture(toldTwice, HOME_DRIVE, "x", USUAL, Watch.NONE)).fault().sentence();
        assertTrue(twice.contains("FELL and OTHER"), twice);
        assertFalse(Files.exists(folder.resolve("office/images/x")));
    }
}
