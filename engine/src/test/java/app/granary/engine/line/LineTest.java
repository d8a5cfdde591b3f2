package app.granary.engine.line;

import static org.junit.jupiter.api.Assertions.assertArrayEquals;
import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertFalse;
import static org.junit.jupiter.api.Assertions.assertThrows;
import static org.junit.jupiter.api.Assertions.assertTrue;

import app.granary.core.fault.Fault;
import app.granary.core.fault.FaultException;
import app.granary.core.filesystem.SurveyChoice;
import app.granary.core.inventory.Firmware;
import app.granary.core.proof.ProofLevel;
import app.granary.core.layout.LayoutChoice;
import app.granary.core.machine.Machine;
import app.granary.engine.codec.Codec;
import app.granary.engine.host.Host;
import app.granary.engine.host.HostImage;
import app.granary.engine.host.ImageAt;
import app.granary.engine.host.Lender;
import app.granary.engine.host.MachineHost;
import app.granary.engine.host.Overwriting;
import app.granary.engine.host.RemoteFolders;
import app.granary.engine.host.Storage;
import app.granary.engine.hosts.ManyHosts;
import app.granary.engine.hosts.Member;
import app.granary.engine.media.Medium;
import app.granary.engine.media.Tools;
import app.granary.engine.progress.Progress;
import app.granary.engine.progress.Watch;
import app.granary.engine.remote.NotNow;
import app.granary.engine.remote.PatientFiles;
import app.granary.engine.remote.RemoteFiles;
import app.granary.engine.sample.SampleGoal;
import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.OptionalLong;
import java.util.Set;
import java.util.concurrent.atomic.AtomicBoolean;
import java.util.concurrent.atomic.AtomicInteger;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Tag;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** What is asked over the line is answered as it is on the spot, whatever happens to the cable meanwhile. */
@Tag("large")
class LineTest {
    private static final Storage USUAL = new Storage(Codec.ZSTD, 3, OptionalLong.empty(), SurveyChoice.USED);

    @TempDir
    Path folder;
    private Host machine;
    private LineHost office;
    private Wire wire;
    private String disk;
    private String drive;

    @BeforeEach
    void aComputerSomewhereElse() throws IOException {
        Path raw = Files.createDirectories(folder.resolve("disks"));
        Files.move(Medium.GPT_EXT4_AND_FAT.make(folder), raw.resolve("own.img"));
        Tools.run(raw, "truncate -s 200M spare.img");
        machine = MachineHost.forAnOffice("TARN", raw, List.of(Files.createDirectories(folder.resolve("TRIPOD"))), Set.of(),
            RemoteFolders.NONE,
            folder.resolve("scratch"), Clock.systemUTC());
        office = new LineHost("a1", "TARN");
        wire = new Wire(machine, office);
        for (int i = 0; i < 100 && !office.here(); i++) {
            Tools.run(folder, "sleep 0.05");
        }
        disk = machine.devices().computers().get(0).disks().stream().filter(each -> each.name().equals("own.img")).findFirst()
            .orElseThrow().id();
        drive = machine.store().destinations().stream().filter(each -> each.name().equals("TRIPOD")).findFirst().orElseThrow().id();
    }

    @AfterEach
    void hangUp() {
        wire.close();
    }

    @Test
    void whatAComputerHasIsToldWithoutAskingAndWhatItReadsAsked() throws IOException {
        assertEquals(machine.devices().computers().get(0).disks(), office.devices().computers().get(0).disks());
        assertEquals("a1", office.devices().computers().get(0).id());
        assertEquals(machine.devices().seen(), office.devices().seen());
        assertEquals(machine.overwriting().targets(), office.overwriting().targets());
        assertEquals(machine.store().destinations().stream().map(each -> each.id()).toList(),
            office.store().destinations().stream().map(each -> each.id()).toList());
        assertEquals(machine.devices().survey(disk, SurveyChoice.USED), office.devices().survey(disk, SurveyChoice.USED));
        assertTrue(office.devices().estimate(disk, USUAL, SampleGoal.QUICK, Watch.NONE).compressRateBytes() > 0);
        assertThrows(FaultException.class, () -> office.devices().survey("no such disk", SurveyChoice.USED));
    }

    @Test
    void anImageIsMadeProvenPutAsideAndWrittenBackThere() throws IOException {
        List<Progress> seen = new ArrayList<>();
        HostImage made = office.imaging().capture(disk, drive, "own", USUAL, new Watch() {
            @Override
            public void advanced(Progress now) {
                seen.add(now);
            }

            @Override
            public boolean stopRequested() {
                return false;
            }
        });
        ImageAt at = ImageAt.of(drive, "own");
        assertFalse(seen.isEmpty(), "progress comes over the line");
        assertEquals(machine.store().facts(at), office.store().facts(at));
        assertTrue(made.storedBytes() >= office.store().facts(at).parts().stream().mapToLong(each -> each.bytes()).sum());
        assertTrue(office.imaging().check(at, ProofLevel.READABLE, Watch.NONE).ok());
        Tools.run(folder.resolve("TRIPOD/granary-images/own"), "sha256sum -c manifest-sha256.txt");
        office.store().shelf(drive).putFile("granary", "card.html", new ByteArrayInputStream(new byte[] {1, 2, 3}));
        assertArrayEquals(new byte[] {1, 2, 3}, office.store().shelf(drive).smallFile("granary", "card.html", 10).orElseThrow());
        assertEquals(List.of("own"), office.store().shelf(drive).images());
        office.store().shelf(drive).release("k1", at);
        assertTrue(office.store().shelf(drive).holds("k1"));
        office.store().shelf(drive).takeBack("k1");
        assertTrue(office.store().shelf(drive).lies(at));
        Overwriting.From image = new Overwriting.From.Image(at);
        String spare = office.overwriting().targets().stream().filter(each -> each.name().equals("spare.img")).findFirst().orElseThrow()
            .id();
        assertTrue(office.overwriting().layout(image, spare, Firmware.UEFI, LayoutChoice.KEEP).fits());
        Overwriting.Confirmed confirmed = Overwriting.Confirmed.of(office.overwriting().target(spare));
        assertEquals(List.of(), office.overwriting().write(image, confirmed, Firmware.UEFI, LayoutChoice.KEEP,
            new Overwriting.How(false, false, true, false), Watch.NONE).differences());
        assertEquals(Tools.run(folder, "sfdisk -d disks/own.img | sed 's/.*img//' | grep start"),
            Tools.run(folder, "sfdisk -d disks/spare.img | sed 's/.*img//' | grep start"));
    }

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

    @Test
    void theCableIsPulledInTheMiddleAndTheWorkIsDoneOnce() throws IOException {
        AtomicBoolean pulled = new AtomicBoolean();
        HostImage made = office.imaging().capture(disk, drive, "own", USUAL, new Watch() {
            @Override
            public void advanced(Progress now) {
                if (pulled.compareAndSet(false, true)) {
                    wire.pull();
                    assertThrows(FaultException.class, () -> office.devices().survey(disk, SurveyChoice.USED), "nothing is asked now");
                    Tools.run(folder, "sleep 2");
                    wire.plug();
                }
            }

            @Override
            public boolean stopRequested() {
                return false;
            }
        });
        assertTrue(pulled.get() && made.check().ok());
        assertEquals(List.of("own"), office.store().shelf(drive).images());
        for (int i = 0; i < 100 && !wire.idle(); i++) {
            Tools.run(folder, "sleep 0.05");
        }
        assertTrue(wire.idle(), "what was heard is forgotten there");
    }

    /** At once, and when it has begun to move bytes. */
    @Test
    void workIsStoppedFromTheOffice() throws IOException {
        Tools.run(folder, "mkdir in; head -c 200M /dev/urandom > in/noise; mkfs.ext4 -q -d in disks/noise.img 300M");
        String noise = machine.devices().computers().get(0).disks().stream().filter(each -> each.name().equals("noise.img")).findFirst()
            .orElseThrow().id();
        for (boolean atOnce : new boolean[] {true, false}) {
            AtomicBoolean moving = new AtomicBoolean(atOnce);
            Fault fault = assertThrows(FaultException.class, () -> office.imaging().capture(noise, drive, "noise", USUAL, new Watch() {
                @Override
                public void advanced(Progress now) {
                    moving.set(true);
                }

                @Override
                public boolean stopRequested() {
                    return moving.get();
                }
            })).fault();
            assertEquals(Fault.Kind.STOPPED, fault.kind(), fault.sentence());
        }
    }

    /** What is no message, or names a type of its own, is refused by the reader and builds nothing. */
    @Test
    void aStrangersMessageIsRefused() {
        for (String odd : List.of("", "null", "[]", "{}", "{\"is\":\"Nothing\"}", "{\"is\":\"java.util.HashMap\"}",
            "{\"is\":\"Done\",\"key\":\"no key\",\"result\":null}", "{\"is\":\"Heard\"}", "{\"is\":\"Here\",\"state\":null}",
            "{\"is\":\"Advanced\",\"key\":\"" + new java.util.UUID(1, 2) + "\",\"progress\":{\"@class\":\"x\"}}",
            "[".repeat(100_000))) {
            assertThrows(IOException.class, () -> LineJson.message(odd), odd.substring(0, Math.min(60, odd.length())));
        }
    }
}
