package app.granary.engine.host;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertThrows;
import static org.junit.jupiter.api.Assertions.assertTrue;

import app.granary.core.disk.DiskIdentity;
import app.granary.core.fault.Fault;
import app.granary.core.fault.FaultException;
import app.granary.core.filesystem.SurveyChoice;
import app.granary.core.inventory.Firmware;
import app.granary.core.layout.LayoutChoice;
import app.granary.core.layout.RestoreLayout;
import app.granary.core.proof.ProofLevel;
import app.granary.core.rescue.BootImage;
import app.granary.core.target.Preparation;
import app.granary.core.target.TargetDisk;
import app.granary.core.target.TargetLook;
import app.granary.engine.codec.Codec;
import app.granary.engine.elsewhere.ElsewhereFile;
import app.granary.engine.elsewhere.ElsewhereImage;
import app.granary.engine.media.Medium;
import app.granary.engine.media.Tools;
import app.granary.engine.progress.Watch;
import app.granary.engine.restore.RestoreOutcome;
import app.granary.engine.host.Overwriting.Confirmed;
import app.granary.engine.host.Overwriting.From;
import app.granary.engine.host.Overwriting.How;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.util.List;
import java.util.OptionalLong;
import java.util.Random;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Tag;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Raw files stand for disks that may be overwritten; the system's own tools say what was written. */
@Tag("large")
class MachineOverwritingTest {
    private static final How USUAL = new How(false, false, true, false);
    private static final long MIB = 1L << 20;

    @TempDir
    Path folder;
    private MachineHost site;
    private Overwriting bench;
    private String diskId;

    @BeforeEach
    void aDiskAnImageAndATarget() throws IOException {
        Path raw = Files.createDirectories(folder.resolve("disks"));
        Files.move(Medium.GPT_EXT4_AND_FAT.make(folder), raw.resolve("own.img"));
        site = new MachineHost("here", raw, folder.resolve("images"), folder.resolve("scratch"), Clock.systemUTC());
        bench = site.overwriting();
        diskId = site.devices().computers().get(0).disks().stream().filter(disk ->
            disk.name().equals("own.img")).findFirst().orElseThrow().id();
        site.imaging().capture(diskId, "granary-folder", "own", new Storage(Codec.ZSTD, 1, OptionalLong.empty(), SurveyChoice.USED),
            Watch.NONE);
        Files.createDirectories(folder.resolve("targets"));
        target("spare.img", "200M");
    }

    private void target(String name, String size) {
        Tools.run(folder.resolve("targets"), "truncate -s " + size + " " + name);
    }

    private TargetDisk spare(String name) throws IOException {
        return bench.targets().stream().filter(each -> each.name().equals(name)).findFirst().orElseThrow();
    }

    private TargetLook look(String name) throws IOException {
        return bench.target(spare(name).id());
    }

    private Confirmed confirmed(String name) throws IOException {
        return Confirmed.of(look(name));
    }

    private static From image() {
        return new From.Image(ImageAt.of("granary-folder", "own"));
    }

    @Test
    void targetsSayWhatTheyHoldBeforeAndAfter() throws IOException {
        assertEquals(List.of("nothing: it starts with zeros"), look("spare.img").holds());
        RestoreLayout layout = bench.layout(image(), spare("spare.img").id(), Firmware.UEFI, LayoutChoice.of(LayoutChoice.Strategy.GROW));
        assertTrue(layout.fits());
        RestoreOutcome outcome = bench.write(image(), confirmed("spare.img"), Firmware.UEFI, LayoutChoice.of(LayoutChoice.Strategy.GROW),
            USUAL, Watch.NONE);
        assertEquals(List.of(), outcome.differences());
        assertTrue(Tools.run(folder.resolve("targets"), "sgdisk -v spare.img").contains("No problems found"));
        assertTrue(look("spare.img").holds().get(1).startsWith("partition 2, 167 MB, ext4"), look("spare.img").holds().toString());
    }

    @Test
    void aDiskIsCopiedOntoASpare() throws IOException {
        RestoreOutcome outcome = bench.write(new From.Disk(diskId), confirmed("spare.img"), Firmware.UEFI, LayoutChoice.KEEP, USUAL,
            Watch.NONE);
        assertEquals(List.of(), outcome.differences());
        assertEquals(Tools.run(folder, "sfdisk -d disks/own.img | sed 's/.*img//' | grep start"),
            Tools.run(folder, "sfdisk -d targets/spare.img | sed 's/.*img//' | grep start"));
    }

    /** From an image and from a disk; what a fall of power left of it goes at the next start, and another machine's work does not. */
    @Test
    void aSmallerTargetTakesAScratchFileThatGoes() throws IOException {
        target("small.img", "60M");
        LayoutChoice shrinking = LayoutChoice.KEEP.shrinking(true);
        RestoreLayout layout = bench.layout(image(), spare("small.img").id(), Firmware.UEFI, shrinking);
        assertTrue(layout.fits() && layout.shrinks(), layout.refusals().toString());
        assertTrue(bench.scratch(spare("small.img").id(), layout.scratchBytes()).freeBytes() > layout.scratchBytes());
        assertTrue(assertThrows(FaultException.class, () -> bench.scratch(spare("small.img").id(), Long.MAX_VALUE)).getMessage()
            .contains("Attach a drive with more room"));
        for (From from : new From[] {image(), new From.Disk(diskId)}) {
            RestoreOutcome outcome = bench.write(from, confirmed("small.img"), Firmware.UEFI, shrinking, USUAL, Watch.NONE);
            assertEquals(List.of(), outcome.differences());
            assertTrue(outcome.lengths().get(0).contains("was made smaller, and is sound."), outcome.lengths().toString());
            Tools.run(folder, "e2fsck -fn 'targets/small.img?offset=" + layout.placed().get(1).to().startBytes() + "' 2>&1");
        }
        Path left = Files.createDirectories(folder.resolve("scratch/granary-scratch/this-machine/granary-scratch-1"));
        Path others = Files.createDirectories(folder.resolve("scratch/granary-scratch/another/granary-scratch-2"));
        new ScratchFolders("this machine").sweep(List.of(folder.resolve("scratch"), folder.resolve("nowhere")));
        assertTrue(!Files.exists(left) && Files.exists(others));
    }

    @Test
    void anotherDiskOrNoneIsRefusedAtTheLastMoment() throws IOException {
        Confirmed was = confirmed("spare.img");
        target("spare.img", "210M");
        FaultException another = assertThrows(FaultException.class,
            () -> bench.write(image(), was, Firmware.UEFI, LayoutChoice.KEEP, USUAL, Watch.NONE));
        assertEquals(Fault.Kind.FORBIDDEN, another.fault().kind());
        assertTrue(another.getMessage().startsWith("Another disk is there now: spare.img"), another.getMessage());
        Files.delete(folder.resolve("targets/spare.img"));
        assertTrue(assertThrows(FaultException.class, () -> bench.write(image(), was, Firmware.UEFI, LayoutChoice.KEEP, USUAL, Watch.NONE))
            .getMessage().contains("is not attached any more, or cannot be told from another. Nothing was written"));
        assertThrows(FaultException.class, () -> bench.layout(image(), was.targetId(), Firmware.UEFI, LayoutChoice.KEEP));
    }

    @Test
    void aTargetTooSmallSaysSoBeforeAnythingIsWritten() throws IOException {
        target("small.img", "60M");
        String before = Tools.run(folder, "sha256sum targets/small.img");
        assertTrue(assertThrows(FaultException.class,
            () -> bench.write(image(), confirmed("small.img"), Firmware.UEFI, LayoutChoice.KEEP, USUAL, Watch.NONE)).getMessage()
            .contains("Nothing was written"));
        assertEquals(before, Tools.run(folder, "sha256sum targets/small.img"));
    }

    @Test
    void filesForSticksAreToldApartAndWritten() throws IOException {
        Path rescue = Files.createDirectories(folder.resolve("rescue"));
        Tools.run(rescue,
            "truncate -s 6M boot.img; printf 'label: dos\\ntype=c,bootable\\n' | sfdisk -q boot.img; printf '\\xFA\\xF4' | dd "
                + "of=boot.img conv=notrunc status=none; seq 1 1000 > notes.txt");
        List<Overwriting.RawFile> files = bench.rawFiles();
        assertEquals(List.of("boot.img", "notes.txt"), files.stream().map(Overwriting.RawFile::name).toList());
        assertEquals(BootImage.Kind.DISK, files.get(0).content().kind());
        assertTrue(files.get(1).content().refusal().contains("neither an ISO nor a disk image"));
        target("stick.img", "16M");
        assertEquals(List.of(), bench.writeRaw("boot.img", confirmed("stick.img"), Watch.NONE).differences());
        assertEquals("", Tools.run(folder, "cmp -n 6291456 rescue/boot.img targets/stick.img"));
        assertThrows(FaultException.class, () -> bench.writeRaw("gone.img", confirmed("stick.img"), Watch.NONE));
    }

    /** Every sector of a disk, what is not in use too; held against it by cmp. */
    @Test
    void aSpareMayHoldEverySector() throws IOException {
        Path disk = folder.resolve("disks/own.img");
        target("whole.img", Files.size(disk) + "");
        assertEquals(List.of(), bench.write(new From.Disk(diskId, true), confirmed("whole.img"), Firmware.UNKNOWN, LayoutChoice.KEEP, USUAL,
            Watch.NONE).differences());
        Tools.run(folder, "cmp disks/own.img targets/whole.img");
    }

    /** A set that was made in a shell, lacking a partition, onto a disk; held against its disk by e2fsck, debugfs and diff. */
    @Test
    void anImageThatOtherToolsMadeGoesOntoADisk() throws IOException {
        Path set = Files.createDirectories(folder.resolve("images/old"));
        Path disk = Medium.GPT_EXT4_AND_FAT.make(Files.createDirectories(folder.resolve("made")));
        Tools.run(set, "sfdisk -d " + disk + " > table; S=$(sfdisk -d " + disk + " | sed -n 's/.*2 : start= *\\([0-9]*\\), size= "
            + "*\\([0-9]*\\),.*/skip=\\1 count=\\2/p'); dd if=" + disk + " bs=512 $S status=none | zstd -q -1 > p2.zst");
        ElsewhereImage image = site.store().elsewhere("granary-folder", "old", Watch.NONE).images().get(0);
        target("old.img", "120M");
        Confirmed target = confirmed("old.img");
        From from = new From.Elsewhere("granary-folder", image);
        RestoreLayout layout = bench.layout(from, target.targetId(), Firmware.UEFI, LayoutChoice.KEEP);
        assertEquals(List.of(2), layout.table().partitions().stream().map(each -> each.number()).toList(), "what is lacking is not made");
        assertEquals(List.of(), bench.write(from, target, Firmware.UEFI, LayoutChoice.KEEP, new How(true, false, true, false),
            Watch.NONE).differences());
        long start = layout.placed().get(0).to().startBytes();
        String cut = " bs=1M iflag=skip_bytes,count_bytes skip=" + start + " count=" + layout.placed().get(0).to().sizeBytes()
            + " status=none; mkdir ";
        Tools.run(folder, "dd of=one if=" + disk + cut + "a; dd of=two if=targets/old.img" + cut + "b; e2fsck -fn two > said 2>&1; "
            + "debugfs -R 'rdump / a' one 2> said; debugfs -R 'rdump / b' two 2> said; diff -r a b; test $(find a -type f | wc -l) -gt 0");
        assertEquals("", Tools.run(folder.resolve("scratch"), "ls -d rehearsal-* 2> said || true"));
        ElsewhereImage known = image.with(image.files().stream().map(f -> f.name().equals("p2.zst")
            ? new ElsewhereFile(f.name(), f.bytes(), "0".repeat(64), "a list") : f).toList(), image.inside());
        assertTrue(assertThrows(FaultException.class, () -> bench.write(new From.Elsewhere("granary-folder", known), confirmed("old.img"),
            Firmware.UEFI, LayoutChoice.KEEP, new How(true, false, true, false), Watch.NONE)).getMessage().contains("Nothing was written"));
    }

    @Test
    void aDriveIsPreparedWithTheNameItWasGiven() throws IOException {
        Preparation how = new Preparation(Preparation.Scheme.GPT, Preparation.StoreFileSystem.EXT4, "PEG-9", 0);
        bench.prepare(how, confirmed("spare.img"), new Random(3), Watch.NONE);
        assertTrue(Tools.run(folder, "dd if=targets/spare.img of=part bs=1M skip=1 count=198 status=none; blkid -p part")
            .contains("LABEL=\"PEG-9\""));
        Preparation bad = new Preparation(Preparation.Scheme.GPT, Preparation.StoreFileSystem.EXT4, "with space", 0);
        assertTrue(assertThrows(FaultException.class, () -> bench.prepare(bad, confirmed("spare.img"), new Random(3), Watch.NONE))
            .getMessage().contains("Nothing was written"));
    }

    @Test
    void aRehearsalWithoutTheFirmwareForItSaysWhatToInstall() throws IOException {
        ImageAt own = ImageAt.of("granary-folder", "own");
        Imaging.Started started = site.imaging().start(own);
        assertTrue(started.seen().isPresent() || started.notStarted().contains("Install the package"), started.toString());
        assertTrue(site.imaging().check(own, ProofLevel.REHEARSED, Watch.NONE).ok());
        assertEquals("", Tools.run(folder.resolve("scratch"), "ls"));
        assertEquals(new DiskIdentity("raw image file", "spare.img", 200 * MIB), spare("spare.img").identity());
    }
}
