package app.granary.standins;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertThrows;
import static org.junit.jupiter.api.Assertions.assertTrue;

import app.granary.core.destination.Destination;
import app.granary.core.filesystem.SurveyChoice;
import app.granary.core.inventory.Firmware;
import app.granary.core.layout.LayoutChoice;
import app.granary.core.proof.ProofLevel;
import app.granary.core.target.TargetDisk;
import app.granary.engine.codec.Codec;
import app.granary.engine.host.BorrowedFolders;
import app.granary.engine.host.HostComputer;
import app.granary.engine.host.HostImage;
import app.granary.engine.host.ImageAt;
import app.granary.engine.host.Lender;
import app.granary.engine.host.Overwriting;
import app.granary.engine.host.Storage;
import app.granary.engine.media.OncePerBuild;
import app.granary.engine.progress.Watch;
import app.granary.engine.restore.RestoreOutcome;
import java.io.IOException;
import java.nio.file.Path;
import java.time.Clock;
import java.util.List;
import java.util.Optional;
import java.util.OptionalLong;
import org.junit.jupiter.api.Tag;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** A laptop of the office, with the office's drives lent to it as they are over the line. */
@Tag("large")
class SimulatedLaptopTest {
    private static final Storage STORAGE = new Storage(Codec.ZSTD, 3, OptionalLong.empty(), SurveyChoice.USED);

    @TempDir
    Path home;

    @Test
    void whatItMakesAndTakesIsOfTheOfficesSizes() throws IOException {
        OncePerBuild.office(home);
        SimulatedOffice office = new SimulatedOffice(home, Clock.systemUTC(), 1000);
        Laptops away = office.sendLaptopsAway();
        assertTrue(names(office.devices().computers()).stream().noneMatch(Laptops.NAMES::contains), "they are with the office no longer");
        BorrowedFolders lent = new BorrowedFolders();
        SimulatedLaptop laptop = new SimulatedLaptop("TRIPOD", home, home.resolve("laptops/TRIPOD"), Clock.systemUTC(), 1000, lent, () -> {
        });
        assertEquals(List.of("TRIPOD"), names(laptop.devices().computers()));
        assertEquals(List.of(), laptop.store().destinations());
        long before = free(office);

        HostImage made;
        try (Lender.Loan loan = office.lender().orElseThrow().lend(ImageAt.of("peg-1", "road"), Lender.Use.TO_WRITE);
            BorrowedFolders.Borrowed there = lent.borrow(loan, "the office", Watch.NONE)) {
            made = laptop.imaging().capture("tripod", there.id(), "road", STORAGE, Watch.NONE);
        }
        assertEquals(before - made.storedBytes(), free(office));
        assertEquals(laptop.devices().survey("tripod", SurveyChoice.USED).sizeBytes(), office.store().facts(ImageAt.of("peg-1", "road"))
            .sizeBytes());
        assertTrue(office.imaging().check(ImageAt.of("peg-1", "road"), ProofLevel.COMPLETE, Watch.NONE).ok());
        office.store().shelf("peg-1").release("key", ImageAt.of("peg-1", "road"));
        assertEquals(before - made.storedBytes(), free(office), "what was released takes its room until it is emptied");
        office.store().shelf("peg-1").takeBack("key");

        TargetDisk own = laptop.overwriting().targets().get(0);
        Overwriting.How how = new Overwriting.How(false, false, false, false);
        try (Lender.Loan loan = office.lender().orElseThrow().lend(ImageAt.of("peg-1", "road"), Lender.Use.TO_READ);
            BorrowedFolders.Borrowed there = lent.borrow(loan, "the office", Watch.NONE)) {
            RestoreOutcome back = laptop.overwriting().write(new Overwriting.From.Image(ImageAt.of(there.id(), "road")),
                Overwriting.Confirmed.of(laptop.overwriting().target(own.id())), Firmware.UEFI, LayoutChoice.KEEP, how, Watch.NONE);
            assertEquals(own.identity().sizeBytes(), back.targetBytes());
            assertTrue(back.differences().isEmpty());
        }
        away.close();
    }

    @Test
    void aDriveThatIsPulledOutOrFullFailsItsWorkAsOnTheSpot() throws IOException {
        OncePerBuild.office(home);
        SimulatedOffice office = new SimulatedOffice(home, Clock.systemUTC(), 1000);
        for (String fault : List.of("unplug:peg-1", "full:peg-1")) {
            try (Lender.Loan loan = office.lender().orElseThrow().lend(ImageAt.of("peg-1", "road"), Lender.Use.TO_WRITE)) {
                office.switchboard().turn(fault, true);
                IOException failed = assertThrows(IOException.class, () -> loan.files().makeFolder("road.partial"));
                assertTrue(failed.getMessage().matches("Input/output error|No space left on device"), failed.getMessage());
            }
            assertEquals(Optional.of(true), office.switchboard().switches().stream().filter(each -> each.id().equals(fault))
                .map(Switchboard.Switch::on).findFirst());
            office.switchboard().turn(fault, false);
        }
    }

    private static List<String> names(List<HostComputer> computers) {
        return computers.stream().map(HostComputer::name).toList();
    }

    private static long free(SimulatedOffice office) throws IOException {
        return office.store().destinations().stream().filter(each -> each.id().equals("peg-1")).findFirst().map(Destination::freeBytes)
            .orElseThrow();
    }
}
