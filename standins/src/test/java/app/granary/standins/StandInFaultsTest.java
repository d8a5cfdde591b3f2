package app.granary.standins;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertFalse;
import static org.junit.jupiter.api.Assertions.assertThrows;
import static org.junit.jupiter.api.Assertions.assertTrue;

import app.granary.core.destination.Destination;
import app.granary.core.fault.Fault;
import app.granary.core.fault.FaultException;
import app.granary.core.filesystem.SurveyChoice;
import app.granary.core.image.BadStretch;
import app.granary.core.proof.CheckOutcome;
import app.granary.core.proof.ProofLevel;
import app.granary.engine.codec.Codec;
import app.granary.engine.media.OncePerBuild;
import app.granary.engine.openpgp.Passphrase;
import app.granary.engine.progress.Progress;
import app.granary.engine.progress.Watch;
import app.granary.engine.host.ImageAt;
import app.granary.engine.host.HostImage;
import app.granary.engine.host.HostUnfinished;
import app.granary.engine.host.Storage;
import java.io.IOException;
import java.nio.file.Path;
import java.time.Clock;
import java.util.List;
import java.util.OptionalLong;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Tag;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** What goes wrong in the made-up office really goes wrong, and can be come back from. */
@Tag("large")
class StandInFaultsTest {
    private static final Storage STORAGE = new Storage(Codec.ZSTD, 3, OptionalLong.empty(), SurveyChoice.USED);

    @TempDir
    Path home;
    private SimulatedOffice office;
    private Switchboard board;

    @BeforeEach
    void open() throws IOException {
        OncePerBuild.office(home);
        office = new SimulatedOffice(home, Clock.systemUTC(), 1000);
        board = office.switchboard();
    }

    private Watch at(double share, String fault) {
        return new Watch() {
            @Override
            public void advanced(Progress progress) {
                if (progress.doneBytes() > progress.totalBytes() * share) {
                    try {
                        board.turn(fault, true);
                    } catch (IOException unknown) {
                        throw new IllegalStateException(unknown);
                    }
                }
            }

            @Override
            public boolean stopRequested() {
                return false;
            }
        };
    }

    private Destination drive(String id) throws IOException {
        return office.store().destinations().stream().filter(d -> d.id().equals(id)).findFirst().orElseThrow();
    }

    @Test
    void aDrivePulledOutIsCarriedOnWhenItIsBack() throws IOException {
        for (Passphrase secret : List.of(Passphrase.NONE, Passphrase.of("x y".toCharArray()))) {
            String name = secret.isNone() ? "plain" : "secret";
            FaultException pulled = assertThrows(FaultException.class,
                () -> office.imaging().capture("contour-1", "cairn", name, STORAGE.with(secret), at(0.6, "unplug:cairn")));
            assertEquals(Fault.Kind.DEVICE_FAILED, pulled.fault().kind());
            assertTrue(pulled.getMessage().startsWith("Writing to CAIRN failed: Input/output error."), pulled.getMessage());
            assertFalse(drive("cairn").attached());
            assertEquals(List.of(), office.store().unfinished("cairn"));
            assertThrows(FaultException.class, () -> office.imaging().carryOn("contour-1", new ImageAt("cairn", name, secret), Watch.NONE));
            board.turn("unplug:cairn", false);
            HostUnfinished left = office.store().unfinished("cairn").get(0);
            assertEquals(name, left.name());
            assertTrue(left.doneShare() > 0.05 && left.doneShare() < 1, left.toString());
            assertEquals("7K-0331-CO", left.disk().serial());
            HostImage made = office.imaging().carryOn("contour-1", new ImageAt("cairn", name, secret), Watch.NONE);
            assertTrue(made.check().ok());
            assertEquals(List.of(), office.store().unfinished("cairn"));
        }
    }

    @Test
    void aDriveThatFillsKeepsWhatWasWritten() throws IOException {
        FaultException full = assertThrows(FaultException.class,
            () -> office.imaging().capture("plumb", "cairn", "night", STORAGE, at(0.3, "full:cairn")));
        assertEquals(Fault.Kind.NO_ROOM, full.fault().kind());
        assertEquals(0, drive("cairn").freeBytes());
        board.turn("full:cairn", false);
        assertEquals(1, office.store().unfinished("cairn").size());
        long with = drive("cairn").freeBytes();
        office.store().discard("cairn", "night");
        assertTrue(drive("cairn").freeBytes() >= with);
        assertEquals(List.of(), office.store().unfinished("cairn"));
    }

    @Test
    void wornSectorsAreToldInTheOfficesSizes() throws IOException {
        board.turn("worn:datum-1", true);
        List<BadStretch> bad = office.imaging().capture("datum-1", "cairn", "worn", STORAGE, Watch.NONE).badSectors();
        assertEquals(3, bad.size());
        assertTrue(bad.stream().allMatch(each -> each.sizeBytes() == 512L * 3752), bad.toString());
        assertEquals(bad, office.store().facts(ImageAt.of("cairn", "worn")).badSectors());
    }

    @Test
    void aFlippedByteIsFoundPlacedNamedAndMendedFromACopy() throws IOException {
        office.imaging().capture("datum-1", "cairn", "night", STORAGE, Watch.NONE);
        assertTrue(office.imaging().copy(ImageAt.of("cairn", "night"), "peg-1", Watch.NONE).ok());
        board.turn("flip:cairn", true);
        CheckOutcome damaged = office.imaging().check(ImageAt.of("cairn", "night"), ProofLevel.READABLE, Watch.NONE);
        assertFalse(damaged.ok());
        assertTrue(damaged.problems().get(0).diskEndBytes() > damaged.problems().get(0).diskStartBytes());
        assertFalse(damaged.lost().isEmpty());
        assertTrue(office.imaging().check(ImageAt.of("peg-1", "night"), ProofLevel.REHEARSED, Watch.NONE).ok());
        assertTrue(office.imaging().repair(ImageAt.of("cairn", "night"), ImageAt.of("peg-1", "night"), ProofLevel.READABLE,
            Watch.NONE).check().ok());
        assertTrue(
            assertThrows(FaultException.class, () -> board.turn("flip:peg-3", true)).getMessage().contains("no image on that drive"));
        assertThrows(FaultException.class, () -> board.turn("melt:peg-3", true));
    }
}
