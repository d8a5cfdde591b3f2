package app.granary.standins;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertFalse;
import static org.junit.jupiter.api.Assertions.assertThrows;
import static org.junit.jupiter.api.Assertions.assertTrue;

import app.granary.core.fault.FaultException;
import app.granary.core.filesystem.SurveyChoice;
import app.granary.core.inventory.Firmware;
import app.granary.core.layout.LayoutChoice;
import app.granary.core.layout.LayoutChoice.Strategy;
import app.granary.core.layout.RestoreLayout;
import app.granary.core.target.Preparation;
import app.granary.core.target.TargetDisk;
import app.granary.engine.codec.Codec;
import app.granary.engine.media.OncePerBuild;
import app.granary.engine.progress.Watch;
import app.granary.engine.restore.BootRehearsal;
import app.granary.engine.host.ImageAt;
import app.granary.engine.host.Storage;
import app.granary.engine.host.Overwriting;
import app.granary.engine.host.Overwriting.Confirmed;
import app.granary.engine.host.Overwriting.From;
import app.granary.engine.host.Overwriting.How;
import app.granary.engine.source.RawSource;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.time.Duration;
import java.util.List;
import java.util.OptionalLong;
import java.util.Random;
import java.util.Set;
import java.util.stream.Collectors;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Tag;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.TestInstance;
import org.junit.jupiter.api.io.TempDir;

@Tag("large")
@TestInstance(TestInstance.Lifecycle.PER_CLASS)
class SimulatedOverwritingTest {
    private static final How USUAL = new How(false, false, false, false);

    @TempDir
    static Path home;
    private SimulatedOffice office;
    private Overwriting bench;
    private Switchboard faults;

    @BeforeAll
    void open() throws IOException {
        OncePerBuild.office(home);
        office = new SimulatedOffice(home, Clock.systemUTC(), 1000);
        bench = office.overwriting();
        faults = office.switchboard();
        for (String disk : List.of("gnomon", "tripod", "plumb")) {
            office.imaging().capture(disk, "cairn", disk + "-image", new Storage(Codec.ZSTD, 1, OptionalLong.empty(), SurveyChoice.USED),
                Watch.NONE);
        }
    }

    private TargetDisk target(String id) throws IOException {
        return bench.targets().stream().filter(each -> each.id().equals(id)).findFirst().orElseThrow();
    }

    private Confirmed confirmed(String id) throws IOException {
        return Confirmed.of(bench.target(id));
    }

    private static From image(String disk) {
        return new From.Image(ImageAt.of("cairn", disk + "-image"));
    }

    @Test
    void everyKindOfTargetIsThereAndSerialsTellThemApart() throws IOException {
        List<TargetDisk> all = bench.targets();
        assertEquals(Set.of(TargetDisk.Kind.values()), all.stream().map(TargetDisk::kind).collect(Collectors.toSet()));
        assertEquals(all.size(), all.stream().map(each -> each.identity().serial()).distinct().count());
        assertTrue(target("drive-peg-1").images().isEmpty() || target("drive-peg-1").images().stream().noneMatch(String::isBlank));
        assertTrue(target("disk-datum-1").inUse().contains("Granary"));
        assertEquals(List.of("the rescue system LARCH_RESCUE_12"), bench.target("key-c").holds());
    }

    /** In the office's own sizes; 500 107 862 016 is 500 GB as marketed (IDEMA LBA1-03, from memory), the disk in the image has 120 GB. */
    @Test
    void figuresAreTheOfficesAndTheSumIsTheTarget() throws IOException {
        for (Strategy strategy : List.of(Strategy.KEEP, Strategy.GROW, Strategy.SHARE)) {
            RestoreLayout layout = bench.layout(image("tripod"), "spare-2", Firmware.UEFI, LayoutChoice.of(strategy));
            assertTrue(layout.fits(), layout.refusals().toString());
            assertEquals(500_107_862_016L, layout.target().sizeBytes());
            assertEquals(500_107_862_016L,
                layout.partitionBytes() + layout.tableBytes() + layout.alignmentBytes() + layout.unallocatedBytes());
        }
        RestoreLayout keep = bench.layout(image("tripod"), "spare-2", Firmware.UEFI, LayoutChoice.KEEP);
        assertEquals(380.0, keep.unallocatedBytes() / 1e9, 3);
        assertFalse(bench.layout(image("tripod"), "spare-3", Firmware.UEFI, LayoutChoice.KEEP).fits());
        RestoreLayout hand = bench.layout(image("plumb"), "spare-2", Firmware.BIOS,
            LayoutChoice.byHand(java.util.Map.of(1, 300_000_000_000L)));
        assertEquals(300.0, hand.placed().stream().filter(each -> each.to().number() == 1).findFirst().orElseThrow().to().sizeBytes() / 1e9,
            0.1);
    }

    @Test
    void whatIsWrittenIsThereByTheOfficesSizes() throws IOException {
        assertEquals(List.of(), bench
            .write(image("plumb"), confirmed("spare-2"), Firmware.BIOS, LayoutChoice.of(Strategy.GROW), USUAL, Watch.NONE).differences());
        assertTrue(bench.target("spare-2").holds().toString().contains("GB"), bench.target("spare-2").holds().toString());
        // the same target takes an image of another scale, and of true size
        assertEquals(List.of(),
            bench.write(image("gnomon"), confirmed("spare-2"), Firmware.BIOS, LayoutChoice.KEEP, USUAL, Watch.NONE).differences());
        assertTrue(bench.target("spare-2").holds().toString().contains("MB"), bench.target("spare-2").holds().toString());
    }

    @Test
    void aComputersOwnDiskIsOverwrittenWhereItIsRead() throws IOException {
        assertEquals(List.of(),
            bench.write(image("plumb"), confirmed("disk-plumb"), Firmware.BIOS, LayoutChoice.KEEP, USUAL, Watch.NONE).differences());
        assertEquals(82_691_584L * 3024, office.devices().survey("plumb", SurveyChoice.USED).sizeBytes());
    }

    @Test
    void faultsShowAsTheyWouldForReal() throws IOException {
        Confirmed was = confirmed("spare-1");
        faults.turn("swap:spare-1", true);
        assertTrue(
            assertThrows(FaultException.class, () -> bench.write(image("tripod"), was, Firmware.UEFI, LayoutChoice.KEEP, USUAL, Watch.NONE))
                .getMessage().startsWith("Another disk is there now"));
        faults.turn("swap:spare-1", false);
        faults.turn("unplug:spare-1", true);
        assertTrue(
            assertThrows(FaultException.class, () -> bench.write(image("tripod"), was, Firmware.UEFI, LayoutChoice.KEEP, USUAL, Watch.NONE))
                .getMessage().contains("not attached any more"));
        assertFalse(target("spare-1").attached());
        faults.turn("unplug:spare-1", false);
        faults.turn("locked:key-a", true);
        assertTrue(target("key-a").readOnly());
        faults.turn("locked:key-a", false);
    }

    /** The machine made of software is Debian's QEMU. */
    @Test
    @Tag("virtual-machine")
    void aStickThatIsWrittenReallyStarts() throws IOException {
        assertTrue(bench.rawFiles().stream().anyMatch(each -> each.content().refusal().contains("cut short")));
        assertEquals(List.of(), bench.writeRaw("larch-rescue-13.iso", confirmed("key-a"), Watch.NONE).differences());
        assertEquals(List.of("the rescue system LARCH_RESCUE_13"), bench.target("key-a").holds());
        try (RawSource stick = RawSource.open(home.resolve("targets/key-a.img"))) {
            BootRehearsal.Seen seen = BootRehearsal.run(stick, false, Duration.ofSeconds(60));
            assertTrue(seen.serial().contains("Larch rescue 13 is up"), seen.toString());
        }
    }

    @Test
    void aDriveIsPreparedAndHoldsAStore() throws IOException {
        bench.prepare(new Preparation(Preparation.Scheme.GPT, Preparation.StoreFileSystem.EXFAT, "PEG-4", 0), confirmed("rod-1"),
            new Random(1), Watch.NONE);
        assertTrue(bench.target("rod-1").holds().get(0).contains("exfat"), bench.target("rod-1").holds().toString());
        assertTrue(Files.size(home.resolve("targets/rod-1.img")) > 200_000_000);
        assertThrows(FaultException.class,
            () -> bench.prepare(new Preparation(Preparation.Scheme.MBR, Preparation.StoreFileSystem.NTFS, "no name!", 0),
                confirmed("rod-1"), new Random(1), Watch.NONE));
    }
}
