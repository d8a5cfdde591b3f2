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
import app.granary.core.layout.LayoutChoice;
import app.granary.core.proof.ProofLevel;
import app.granary.engine.files.FilePlace;
import app.granary.engine.files.FolderPage;
import app.granary.engine.host.HostImage;
import app.granary.engine.host.ImageAt;
import app.granary.engine.host.Insides;
import app.granary.engine.host.Overwriting;
import app.granary.engine.media.Tools;
import app.granary.engine.progress.Errand;
import app.granary.engine.progress.Progress;
import app.granary.engine.progress.Watch;
import app.granary.engine.sample.SampleGoal;
import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.UUID;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.atomic.AtomicBoolean;
import org.junit.jupiter.api.Tag;
import org.junit.jupiter.api.Test;

/** What is asked over the line is answered as it is on the spot, whatever happens to the cable meanwhile. */
@Tag("large")
class LineTest extends OverTheLine {
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

    /** Everything that is looked at in an image comes over the line as it is there. */
    @Test
    void anImageThereIsLookedInto() throws IOException {
        assertTrue(office.imaging().capture(disk, drive, "own", USUAL, Watch.NONE).check().ok());
        ImageAt at = ImageAt.of(drive, "own");
        Insides there = machine.insides();
        Insides here = office.insides();
        assertEquals(there.volumes(at), here.volumes(at));
        assertEquals(there.shape(at), here.shape(at));
        assertEquals(there.stretch(at, 0), here.stretch(at, 0));
        assertArrayEquals(there.read(at, 512, 700), here.read(at, 512, 700));
        int number = here.volumes(at).stream().filter(each -> each.fileSystem().equals("ext4")).findFirst().orElseThrow().number();
        FilePlace etc = new FilePlace(number, List.of("etc"));
        FilePlace file = etc.below("passwd");
        assertEquals(there.list(at, etc, FolderPage.Asked.ALL), here.list(at, etc, FolderPage.Asked.ALL));
        assertEquals(there.search(at, etc, "PASS", 60_000), here.search(at, etc, "PASS", 60_000));
        assertEquals(there.file(at, file), here.file(at, file));
        assertEquals(there.digest(at, file, Watch.NONE), here.digest(at, file, Watch.NONE));
        assertArrayEquals(there.bytes(at, file, 0, 99), here.bytes(at, file, 0, 99));
        assertTrue(here.bytes(at, file, 0, 99).length > 0);
        FaultException missing = assertThrows(FaultException.class, () -> here.file(at, etc.below("none")));
        assertEquals(Fault.Kind.BAD_CHOICE, missing.fault().kind());
    }

    /** At the computer's console: the office shows it as held, and lets it go on. */
    @Test
    void whatIsHeldThereIsHeldAtTheOfficeAndEitherLetsItGoOn() throws Exception {
        AtomicBoolean held = new AtomicBoolean();
        Watch watch = new Watch() {
            @Override
            public void advanced(Progress now) {
            }

            @Override
            public boolean stopRequested() {
                return false;
            }

            @Override
            public void heldThere(boolean now) {
                held.set(now);
            }

            @Override
            public void requireGoingOn(String what) {
                while (held.get()) {
                    Tools.run(folder, "sleep 0.05");
                }
            }
        };
        CompletableFuture<Boolean> made = CompletableFuture.supplyAsync(() -> {
            try {
                return office.imaging().capture(disk, drive, "own", USUAL, watch).check().ok();
            } catch (IOException failed) {
                throw new java.io.UncheckedIOException(failed);
            }
        });
        while (wire.idle()) {
            Thread.onSpinWait();
        }
        wire.answering().holdAll(true);
        Tools.run(folder, "sleep 2");
        assertTrue(held.get() && wire.answering().held() && !made.isDone(), "it waits, and both know");
        held.set(false);
        assertTrue(made.get(60, java.util.concurrent.TimeUnit.SECONDS), "the office let it go on");
        assertFalse(wire.answering().held());
    }

    /** An office that was started anew has no more than the key of what it asked for. */
    @Test
    void anOfficeThatWasStartedAnewHearsWhatItsWorkCameTo() throws Exception {
        UUID key = UUID.randomUUID();
        CompletableFuture<HostImage> forgotten = new CompletableFuture<>();
        Thread asking = new Thread(() -> {
            try {
                forgotten.complete(office.imaging().capture(disk, drive, "own", USUAL, keyed(key, false, () -> { })));
            } catch (IOException ended) {
                forgotten.completeExceptionally(ended);
            }
        });
        asking.start();
        while (wire.idle()) {
            Thread.onSpinWait();
        }
        wire.pull();
        Path made = folder.resolve("TRIPOD/granary-images/own/manifest-sha256.txt");
        for (int i = 0; i < 200 && !Files.exists(made); i++) {
            Tools.run(folder, "sleep 0.1");
        }
        assertTrue(Files.exists(made), "it goes on without the office");
        LineHost anew = new LineHost("a1", "TARN");
        wire.to(anew);
        for (int i = 0; i < 100 && !anew.here(); i++) {
            Tools.run(folder, "sleep 0.05");
        }
        List<Progress> seen = new ArrayList<>();
        HostImage heard = anew.imaging().capture(disk, drive, "own", USUAL, keyed(key, true, () -> seen.add(null)));
        assertTrue(heard.check().ok() && heard.storedBytes() > 0);
        assertEquals(Fault.Kind.NOT_RECOGNISED, assertThrows(FaultException.class,
            () -> anew.imaging().capture(disk, drive, "another", USUAL, keyed(UUID.randomUUID(), true, () -> { }))).fault().kind());
        assertFalse(Files.exists(folder.resolve("TRIPOD/granary-images/another.partial")), "what is not known is not begun");
        asking.interrupt();
    }

    /** An office that was killed asks for the same disk at once when it is back; what it had asked for before has not ended there yet. */
    @Test
    void whatIsAskedForAgainWaitsUntilTheForgottenWorkHasEnded() throws Exception {
        Thread forgotten = new Thread(() -> {
            try {
                office.imaging().capture(disk, drive, "own", USUAL, Watch.NONE);
            } catch (IOException ended) {
                // nobody waits for it
            }
        });
        forgotten.start();
        while (wire.answering().underWay().isEmpty()) {
            Thread.onSpinWait();
        }
        assertTrue(office.imaging().capture(disk, drive, "again", USUAL, Watch.NONE).check().ok());
        forgotten.join(60_000);
    }

    private static Watch keyed(UUID key, boolean again, Runnable once) {
        AtomicBoolean told = new AtomicBoolean();
        return new Watch() {
            @Override
            public void advanced(Progress now) {
                if (told.compareAndSet(false, true)) {
                    once.run();
                }
            }

            @Override
            public boolean stopRequested() {
                return false;
            }

            @Override
            public Errand errand() {
                return new Errand(key, again);
            }
        };
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
