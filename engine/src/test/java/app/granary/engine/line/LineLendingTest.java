package app.granary.engine.line;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertThrows;
import static org.junit.jupiter.api.Assertions.assertTrue;

import app.granary.core.fault.Fault;
import app.granary.core.fault.FaultException;
import app.granary.core.proof.ProofLevel;
import app.granary.core.machine.Machine;
import app.granary.engine.host.HostImage;
import app.granary.engine.host.ImageAt;
import app.granary.engine.host.Lender;
import app.granary.engine.host.MachineHost;
import app.granary.engine.hosts.ManyHosts;
import app.granary.engine.hosts.Member;
import app.granary.engine.media.Tools;
import app.granary.engine.progress.Progress;
import app.granary.engine.progress.Watch;
import app.granary.engine.remote.NotNow;
import app.granary.engine.remote.PatientFiles;
import app.granary.engine.remote.RemoteFiles;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.util.List;
import java.util.Optional;
import java.util.concurrent.atomic.AtomicInteger;
import org.junit.jupiter.api.Tag;
import org.junit.jupiter.api.Test;

/** The drive of a computer that joined, lent by it: whoever borrows it waits for the cable. */
@Tag("large")
class LineLendingTest extends OverTheLine {
    /** An image of the office's is written onto the drive over there, and read back from it, while the cable is pulled again and again. */
    @Test
    void itsDriveIsLentAndWhoBorrowsItWaitsForTheCable() throws IOException {
        Path images = Files.createDirectories(folder.resolve("office"));
        MachineHost home = new MachineHost("office", Files.createDirectories(folder.resolve("office/disks")), images,
            folder.resolve("office/scratch"), Clock.systemUTC());
        Tools.run(folder, "cp disks/own.img office/disks/mine.img");
        String mine = home.devices().computers().get(0).disks().stream().filter(each -> each.name().equals("mine.img")).findFirst()
            .orElseThrow().id();
        ManyHosts all = new ManyHosts(home, () -> List.of(new Member(new Machine("a1", "TARN", Optional.empty()),
            office)), (to, loan) -> {
                throw new AssertionError("the office works itself");
            });
        AtomicInteger told = new AtomicInteger();
        Watch pulling = new Watch() {
            @Override
            public void advanced(Progress now) {
                if (told.incrementAndGet() % 7 == 3) {
                    wire.pull();
                    Thread again = new Thread(() -> {
                        Tools.run(folder, "sleep 0.3");
                        wire.plug();
                    });
                    again.start();
                }
            }

            @Override
            public boolean stopRequested() {
                return false;
            }
        };
        HostImage made = all.imaging().capture(mine, drive, "lent", USUAL, pulling);
        assertTrue(told.get() > 3, "it was pulled");
        assertEquals(folder.resolve("TRIPOD/granary-images/lent") + " in TARN", made.location());
        Tools.run(folder.resolve("TRIPOD/granary-images/lent"), "sha256sum -c manifest-sha256.txt && zstd -t data/*zst*");
        for (int i = 0; i < 50 && !office.here(); i++) {
            Tools.run(folder, "sleep 0.1");
        }
        assertTrue(office.imaging().check(ImageAt.of(drive, "lent"), ProofLevel.READABLE, Watch.NONE).ok());
    }

    @Test
    void aLoanIsOfOneImageAndOfTheOneThatAskedLast() throws IOException {
        Lender.Loan first = office.lender().orElseThrow().lend(ImageAt.of(drive, "other"), Lender.Use.TO_WRITE);
        Lender.Loan again = office.lender().orElseThrow().lend(ImageAt.of(drive, "other"), Lender.Use.TO_WRITE);
        assertThrows(FaultException.class, () -> first.files().names(first.images()), "whoever had it before has forgotten it");
        assertEquals(List.of(), again.files().names(again.images()));
        assertThrows(FaultException.class, () -> again.files().open("granary-images/lent/bagit.txt", RemoteFiles.Open.EMPTIED));
        again.close();
        wire.pull();
        assertThrows(NotNow.class, () -> again.files().entry("granary-images"));
        IOException stopped = assertThrows(IOException.class, () -> PatientFiles.of(again.files(), () -> true).entry("granary-images"));
        assertEquals(Fault.Kind.STOPPED, ((FaultException) stopped).fault().kind());
    }
}
