package app.granary.standins;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertNotEquals;
import static org.junit.jupiter.api.Assertions.assertThrows;
import static org.junit.jupiter.api.Assertions.assertTrue;

import app.granary.core.destination.Destination;
import app.granary.core.fault.FaultException;
import app.granary.core.filesystem.DiskSurvey;
import app.granary.core.filesystem.SurveyChoice;
import app.granary.core.proof.ProofLevel;
import app.granary.engine.codec.Codec;
import app.granary.core.disk.Partition;
import app.granary.engine.elsewhere.ElsewhereCheck;
import app.granary.engine.elsewhere.ElsewhereImage;
import app.granary.engine.media.OncePerBuild;
import app.granary.engine.progress.Watch;
import app.granary.engine.sample.SampleGoal;
import app.granary.engine.host.ImageAt;
import app.granary.engine.host.HostComputer;
import app.granary.engine.host.HostDisk;
import app.granary.engine.host.HostEstimate;
import app.granary.engine.host.HostImage;
import app.granary.engine.host.Storage;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.time.Clock;
import java.util.List;
import java.util.OptionalLong;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Tag;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.TestInstance;
import org.junit.jupiter.api.io.TempDir;

@Tag("large")
@TestInstance(TestInstance.Lifecycle.PER_CLASS)
class SimulatedOfficeTest {
    private static final Storage STORAGE = new Storage(Codec.ZSTD, 3, OptionalLong.empty(), SurveyChoice.USED);

    @TempDir
    static Path home;
    private SimulatedOffice office;

    @BeforeAll
    void open() throws IOException {
        OncePerBuild.office(home);
        office = new SimulatedOffice(home, Clock.systemUTC(), 1000);
    }

    /** Marketed capacities: IDEMA LBA1-03 (from memory): 500 GB 976 773 168, 1000 GB 1 953 525 168 sectors of 512 bytes. */
    @Test
    void disksGoByTheirMarketedSizesAndAreRealInside() throws IOException {
        for (HostComputer computer : office.devices().computers()) {
            for (HostDisk disk : computer.disks()) {
                DiskSurvey survey = office.devices().survey(disk.id(), SurveyChoice.USED);
                assertEquals(disk.identity().sizeBytes(), survey.sizeBytes());
                assertTrue(survey.usedBytes() > 0 && survey.usedBytes() < survey.sizeBytes());
                survey.partitions().forEach(p -> assertTrue(p.partition().endBytes() <= survey.sizeBytes()));
            }
        }
        assertEquals(1_953_525_168L * 512, office.devices().survey("meridian", SurveyChoice.USED).sizeBytes());
        assertEquals(976_773_168L * 512, office.devices().survey("datum-1", SurveyChoice.USED).sizeBytes());
    }

    @Test
    void anImageTakesRoomInTheOfficesSizes() throws IOException {
        HostEstimate estimate = office.devices().estimate("datum-1", STORAGE, SampleGoal.QUICK, Watch.NONE);
        long before = free("peg-1");
        HostImage image = office.imaging().capture("datum-1", "peg-1", "night", STORAGE, Watch.NONE);
        assertTrue(estimate.size().lowBytes() <= image.storedBytes() && image.storedBytes() <= estimate.size().highBytes(),
            estimate.size() + " " + image);
        assertEquals(before - image.storedBytes(), free("peg-1"));
        assertTrue(office.imaging().check(ImageAt.of("peg-1", "night"), ProofLevel.READABLE, Watch.NONE).ok());
        assertThrows(FaultException.class, () -> office.imaging().capture("datum-1", "peg-1", "night", STORAGE, Watch.NONE));
        assertThrows(FaultException.class, () -> office.imaging().capture("gnomon", "peg-1", "night", STORAGE, Watch.NONE));
        assertEquals(before - image.storedBytes(), free("peg-1"), "a refused image of another disk does not change the first one's size");
        assertTrue(office.imaging().check(ImageAt.of("peg-1", "night"), ProofLevel.COMPLETE, Watch.NONE).ok(),
            "a refused second image leaves the first as it was");
        assertThrows(FaultException.class, () -> office.devices().survey("nothing", SurveyChoice.USED));
        assertThrows(FaultException.class, () -> office.imaging().check(ImageAt.of("nowhere", "night"), ProofLevel.COMPLETE, Watch.NONE));
    }

    @Test
    void oldImagesLieOnADriveAsOtherToolsLeftThem() throws IOException {
        List<ElsewhereImage> found = office.store().elsewhere("cairn", "", Watch.NONE).images();
        assertEquals(List.of("sda.sfdisk", "ledger-before-update.img.gz", "plumb-spring.img.zst"),
            found.stream().map(ElsewhereImage::name).toList());
        ElsewhereImage ledger = found.get(1);
        assertTrue(ledger.files().size() > 2);
        assertEquals(office.devices().survey("ledger", SurveyChoice.USED).partitions().stream().map(p ->
            p.partition().startBytes()).toList(),
            ledger.inside().partitions().stream().map(Partition::startBytes).toList());
        ElsewhereCheck.Result result = office.imaging().check("cairn", ledger, ProofLevel.READABLE, Watch.NONE);
        assertEquals(ProofLevel.READABLE, result.outcome().level());
        assertTrue(result.outcome().ok(), result.toString());
        assertEquals(500_107_862_016L, result.contentBytes().orElseThrow(), "the disk's length in the office's sizes");
        assertThrows(FaultException.class, () -> office.store().elsewhere("cairn", "../peg-1", Watch.NONE));
    }

    private long free(String id) throws IOException {
        return office.store().destinations().stream().filter(d -> d.id().equals(id)).findFirst().map(Destination::freeBytes).orElseThrow();
    }

    @Test
    void madeUpContentFollowsItsMarkAndPlace() {
        byte[] one = marked('t');
        byte[] same = marked('t');
        byte[] elsewhere = marked('t');
        MadeUpContent.fill(one, 512, 4096);
        MadeUpContent.fill(same, 512, 4096);
        MadeUpContent.fill(elsewhere, 512, 8192);
        assertEquals(new String(one, StandardCharsets.US_ASCII), new String(same, StandardCharsets.US_ASCII));
        assertNotEquals(new String(one, StandardCharsets.US_ASCII), new String(elsewhere, StandardCharsets.US_ASCII));
        byte[] unmarked = new byte[512];
        unmarked[0] = 'G';
        MadeUpContent.fill(unmarked, 512, 0);
        assertEquals('G', unmarked[0]);
        assertEquals(0, unmarked[1]);
    }

    private static byte[] marked(char kind) {
        byte[] sector = new byte[512];
        System.arraycopy(("GRNFILL " + kind + "00000007").getBytes(StandardCharsets.US_ASCII), 0, sector, 0, 17);
        return sector;
    }
}
