package app.granary.engine.bag;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertFalse;
import static org.junit.jupiter.api.Assertions.assertThrows;
import static org.junit.jupiter.api.Assertions.assertTrue;

import app.granary.core.disk.DiskIdentity;
import app.granary.core.fault.Fault;
import app.granary.core.fault.FaultException;
import app.granary.core.filesystem.SurveyChoice;
import app.granary.core.image.ImageName;
import app.granary.engine.codec.Codec;
import app.granary.engine.media.Tools;
import app.granary.engine.openpgp.Passphrase;
import java.io.IOException;
import java.nio.file.Path;
import java.util.List;
import java.util.OptionalLong;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** What a capture leaves that ends at its very beginning, and who may touch one that is under way. */
class UnfinishedTest {
    private static final Begun BEGUN = new Begun("2026-11-24T02:14:00Z", new DiskIdentity("Halden S2", "22-HS", 1 << 20), SurveyChoice.USED,
        "ab", 77, Codec.ZSTD, 3, OptionalLong.empty(), false);

    @TempDir
    Path folder;

    private ImageName night() throws IOException {
        return ImageName.parse("night");
    }

    private BagWriter begin() throws IOException {
        BagWriter out = BagWriter.create(folder, night(), BEGUN, Passphrase.NONE, true);
        out.frame(new byte[] {1}, 1, 0, 0);
        return out;
    }

    /** A folder without a log could neither be carried on nor started over: it was there for ever, and its name was taken. */
    @ParameterizedTest
    @ValueSource(strings = {"mkdir -p night.partial/data", "mkdir -p night.partial/data; : > night.partial.log", ": > night.partial.log",
        "mkdir night.partial; printf '{\"cap' > night.partial.log",
        "mkdir night.partial; printf x > night.partial.log.new",
        "mkdir -p night.partial/data; printf abc > night.partial/data/disk.img.zst; : > night.partial.lock"})
    void whateverAPlugPulledAtTheBeginningLeavesIsFoundAndDiscarded(String left) throws IOException {
        Tools.run(folder, left);
        assertEquals(List.of(), Unfinished.in(folder));
        assertEquals(List.of(night()), Unfinished.remains(folder));
        assertThrows(FaultException.class, () -> Unfinished.open(folder, night()));
        assertTrue(Unfinished.discard(folder, night()));
        assertFalse(Unfinished.discard(folder, night()));
        assertEquals("", Tools.run(folder, "ls -A"));
        begin().close();
        assertEquals(1, Unfinished.in(folder).size(), "its name is free again");
    }

    /** A capture that is killed before it made its folder leaves a lock alone, which nobody ever took away. */
    @Test
    void aLockThatNobodyHoldsAndNothingElseGoes() throws IOException {
        Tools.run(folder, ": > night.partial.lock; : > other.lock; mkdir day.partial.lock; ln -s other.lock eve.partial.lock");
        assertEquals(List.of(), Unfinished.remains(folder));
        assertEquals("day.partial.lock\neve.partial.lock\nother.lock\n", Tools.run(folder, "ls -A"), "what is none is left alone");
    }

    @Test
    void whatIsUnderWayIsNobodyElses() throws IOException {
        BagWriter writing = begin();
        assertEquals(List.of(), Unfinished.in(folder), "it is not unfinished, it is under way");
        FaultException refused = assertThrows(FaultException.class, () -> Unfinished.discard(folder, night()));
        assertEquals(Fault.Kind.FORBIDDEN, refused.fault().kind());
        assertTrue(refused.getMessage().contains("is being written right now"), refused.getMessage());
        writing.close();
        Unfinished left = Unfinished.open(folder, night());
        BagWriter again = left.kept(Passphrase.NONE).open();
        assertThrows(FaultException.class, () -> Unfinished.open(folder, night()).kept(Passphrase.NONE).open());
        again.close();
        Unfinished.discard(folder, night());
        assertEquals("", Tools.run(folder, "ls -A"));
    }

    /** Another program could be captured over: its folder was discarded under its hands. */
    @Test
    void anotherProgramsCaptureIsNotDiscarded() throws Exception {
        begin().close();
        Process other = new ProcessBuilder("python3", "-c",
            "import fcntl,sys\nf=open('night.partial.lock','w')\nfcntl.lockf(f,fcntl.LOCK_EX)\nprint('held',flush=True)\nsys.stdin.read()")
            .directory(folder.toFile()).start();
        try {
            assertEquals("held", other.inputReader().readLine());
            assertEquals(List.of(), Unfinished.in(folder));
            assertThrows(FaultException.class, () -> Unfinished.discard(folder, night()));
            assertThrows(FaultException.class, () -> Unfinished.open(folder, night()).kept(Passphrase.NONE).open());
        } finally {
            other.destroy();
            other.waitFor();
        }
        assertEquals(1, Unfinished.in(folder).size());
        assertTrue(Unfinished.discard(folder, night()));
    }
}
