package app.granary.engine.host;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertFalse;
import static org.junit.jupiter.api.Assertions.assertThrows;
import static org.junit.jupiter.api.Assertions.assertTrue;

import app.granary.core.destination.Destination;
import app.granary.core.fault.Fault;
import app.granary.core.fault.FaultException;
import app.granary.core.filesystem.SurveyChoice;
import app.granary.core.proof.ProofLevel;
import app.granary.engine.codec.Codec;
import app.granary.engine.media.Medium;
import app.granary.engine.progress.Watch;
import app.granary.engine.sample.SampleGoal;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.util.List;
import java.util.OptionalLong;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.function.Executable;
import org.junit.jupiter.api.io.TempDir;

class MachineHostTest {
    @TempDir
    Path folder;

    /**
     * What a rehearsal or a drive being prepared left that was killed lay in scratch for ever; other people's folders there are none of
     * this.
     */
    @Test
    void scratchOfWorkThatWasKilledIsSweptAtTheStart() throws IOException {
        for (String name : List.of("rehearsal-123", "prepare-7", "rehearsal-mine", "other")) {
            Files.writeString(Files.createDirectories(folder.resolve("scratch").resolve(name)).resolve("disk.img"), "x");
        }
        Path outside = Files.createDirectories(folder.resolve("outside"));
        Files.writeString(outside.resolve("kept"), "x");
        Files.createSymbolicLink(folder.resolve("scratch/rehearsal-9"), outside);
        ImageWork.sweep(folder.resolve("scratch"));
        assertEquals(List.of("other", "rehearsal-9", "rehearsal-mine"),
            java.util.Arrays.stream(folder.resolve("scratch").toFile().list()).sorted().toList());
        assertTrue(Files.exists(outside.resolve("kept")));
    }

    /** Shape of {@code lsblk --json -b} of util-linux 2.38, with invented devices. */
    @Test
    void lsblkIsReadWithItsTreeAndMounts() throws IOException {
        List<Lsblk.Device> devices = Lsblk.parse("""
            {"blockdevices": [
              {"name":"sda","path":"/dev/sda","type":"disk","size":500107862016,"model":"Halden S2 ","serial":"22-HS-0501",
              "tran":"sata","ro":false,"mountpoints":[null],
               "fstype":null,"fsavail":null,"fssize":null,"label":null,
               "children":[{"name":"sda1","path":"/dev/sda1","type":"part","size":499000000000,"model":null,"serial":null,"tran":null,
               "ro":false,"mountpoints":["/","/home"],
                 "fstype":"ext4","fsavail":"1000","fssize":"4000","label":"system","uuid":"5d1f-0c"}]},
              {"name":"sr0","path":"/dev/sr0","type":"rom","size":0,"ro":false,"mountpoints":[null]}]}
            """);
        assertEquals(2, devices.size());
        Lsblk.Device disk = devices.get(0);
        assertEquals("Halden S2", disk.model());
        assertEquals("22-HS-0501", disk.serial());
        assertEquals(500_107_862_016L, disk.sizeBytes());
        assertEquals(2, disk.tree().size());
        assertEquals(List.of("/", "/home"), disk.tree().get(1).mountPoints());
        assertTrue(disk.mountPoints().isEmpty());
        Lsblk.Device data = disk.tree().get(1);
        assertEquals(MachineStore.driveId(data, "/mnt/a"), MachineStore.driveId(data, "/media/b"),
            "mounted elsewhere it is the same destination");
        assertFalse(MachineStore.driveId(disk, "/mnt/a").equals(MachineStore.driveId(disk, "/media/b")),
            "without an identity of its own it cannot be told");
        for (String odd : List.of("", "lsblk: failed to access sysfs directory", "{}", "{\"blockdevices\": 3}")) {
            assertThrows(FaultException.class, () -> Lsblk.parse(odd), "cannot tell is not none: " + odd);
        }
        assertEquals(Links.USB_3, Links.rate("usb"));
        assertEquals(Links.SATA, Links.rate(""));
    }

    @Test
    void rawFilesAreDisksAndTheOwnFolderIsADestination() throws IOException {
        Path raw = Files.createDirectories(folder.resolve("disks"));
        Path disk = Medium.MBR_FAT12.make(folder);
        Files.move(disk, raw.resolve("old card.img"));
        Files.writeString(raw.resolve("notes.txt"), "no disk");
        MachineHost site = new MachineHost("bench", raw, folder.resolve("images"), folder.resolve("scratch"), Clock.systemUTC());
        assertEquals("", site.simulation());
        List<HostDisk> disks = site.devices().computers().get(0).disks();
        HostDisk card = disks.stream().filter(d -> d.name().equals("old card.img")).findFirst().orElseThrow();
        assertEquals(16L << 20, card.identity().sizeBytes());
        assertEquals("mbr", site.devices().survey(card.id(), SurveyChoice.USED).table().scheme());
        HostDisk notes = disks.stream().filter(d -> d.name().equals("notes.txt")).findFirst().orElseThrow();
        assertThrows(FaultException.class, () -> site.devices().survey(notes.id(), SurveyChoice.USED));
        Destination own = site.store().destinations().stream().filter(d -> d.id().equals("granary-folder")).findFirst().orElseThrow();
        assertTrue(own.attached() && own.writable() && own.freeBytes() > 0);
        Storage storage = new Storage(Codec.ZSTD, 3, OptionalLong.empty(), SurveyChoice.USED);
        HostEstimate estimate = site.devices().estimate(card.id(), storage, SampleGoal.QUICK, Watch.NONE);
        assertTrue(estimate.compressRateBytes() > 0);
        HostImage image = site.imaging().capture(card.id(), "granary-folder", "card", storage, Watch.NONE);
        assertTrue(estimate.size().lowBytes() <= image.storedBytes() && image.storedBytes() <= estimate.size().highBytes());
        assertTrue(image.check().ok());
        assertTrue(site.imaging().check(ImageAt.of("granary-folder", "card"), ProofLevel.READABLE, Watch.NONE).ok());
        assertThrows(FaultException.class, () -> site.imaging().check(ImageAt.of("granary-folder", "../disks"), ProofLevel.READABLE,
            Watch.NONE),
            "no path leaves the destination");
        assertThrows(FaultException.class, () -> site.imaging().capture("unknown", "granary-folder", "x", storage, Watch.NONE));
        assertThrows(FaultException.class, () -> site.imaging().capture(card.id(), "unknown", "x", storage, Watch.NONE));
        assertFalse(Files.exists(folder.resolve("images/x")));
    }

    /** A capture into Granary's own folder, or a rehearsal, that took more than was reckoned filled the drive of the database. */
    @Test
    void imagesAndRehearsalsLeaveTheLastRoomOfGranarysOwnDriveFree() throws IOException {
        Path raw = Files.createDirectories(folder.resolve("disks"));
        Files.move(Medium.MBR_FAT12.make(folder), raw.resolve("card.img"));
        Storage storage = new Storage(Codec.ZSTD, 3, OptionalLong.empty(), SurveyChoice.USED);
        MachineHost roomy = site(raw, 0);
        MachineHost full = site(raw, Long.MAX_VALUE / 2);
        String card = roomy.devices().computers().get(0).disks().stream().filter(d ->
            d.name().equals("card.img")).findFirst().orElseThrow().id();
        roomy.imaging().capture(card, "granary-folder", "before", storage, Watch.NONE);
        assertEquals(0, full.store().destinations().stream().filter(d ->
            d.id().equals("granary-folder")).findFirst().orElseThrow().freeBytes());
        for (Executable work : List.<Executable>of(() -> full.imaging().capture(card, "granary-folder", "card", storage, Watch.NONE),
            () -> full.imaging().check(ImageAt.of("granary-folder", "before"), ProofLevel.REHEARSED, Watch.NONE))) {
            Fault fault = assertThrows(FaultException.class, work).fault();
            assertEquals(Fault.Kind.NO_ROOM, fault.kind(), fault.sentence());
            assertTrue(fault.sentence().contains("of the drive its own data lies on"), fault.sentence());
        }
        assertEquals(List.of(), Files.list(folder.resolve("scratch")).toList());
        assertTrue(full.imaging().check(ImageAt.of("granary-folder", "before"), ProofLevel.READABLE, Watch.NONE).ok(),
            "reading takes no room");
        assertEquals(List.of("before"), Files.list(folder.resolve("images")).map(each -> each.getFileName().toString()).toList(),
            "nothing was begun");
        assertTrue(roomy.imaging().check(ImageAt.of("granary-folder", "before"), ProofLevel.REHEARSED, Watch.NONE).ok());
    }

    private MachineHost site(Path raw, long keptBytes) throws IOException {
        return new MachineHost("bench", raw, folder.resolve("images"), folder.resolve("scratch"), Clock.systemUTC(), Attachments.DISKS,
            keptBytes);
    }
}
