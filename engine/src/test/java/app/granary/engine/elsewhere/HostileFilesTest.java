package app.granary.engine.elsewhere;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertTimeoutPreemptively;
import static org.junit.jupiter.api.Assertions.assertTrue;

import app.granary.core.proof.ProofLevel;
import app.granary.engine.media.Medium;
import app.granary.engine.media.Tools;
import app.granary.engine.progress.Progress;
import app.granary.engine.progress.Watch;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.util.Arrays;
import java.util.List;
import java.util.SplittableRandom;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

/** Files of other hands: whatever bytes they hold, a look ends soon, stays within its memory and goes on to the next file. */
class HostileFilesTest {
    @TempDir
    Path root;

    @ParameterizedTest
    @ValueSource(strings = {"cat", "gzip -1", "zstd -q -1", "xz -0", "bzip2 -1"})
    void changedBytesGiveAnImageOrNoneAndNeverMore(String pack) throws IOException {
        Path disk = Medium.GPT_EXT4_1K.make(Files.createDirectories(root.resolve(".made")));
        Tools.run(root, "head -c 300000 '" + disk + "' | " + pack + " > start");
        byte[] whole = Files.readAllBytes(root.resolve("start"));
        Files.delete(root.resolve("start"));
        SplittableRandom random = new SplittableRandom(31);
        assertTimeoutPreemptively(Duration.ofSeconds(120), () -> {
            for (int round = 0; round < 60; round++) {
                byte[] changed = Arrays.copyOf(whole, round % 4 == 0 ? random.nextInt(whole.length) : whole.length);
                for (int i = 0; i < 1 + round % 5 && changed.length > 0; i++) {
                    changed[random.nextInt(Math.min(changed.length, round % 2 == 0 ? 80 : changed.length))] = (byte) random.nextInt();
                }
                Files.write(root.resolve("one"), changed);
                for (ElsewhereImage image : ElsewhereScan.in(root, "", Watch.NONE).images()) {
                    assertEquals("one", image.name());
                    ElsewhereCheck.run(root, image, ProofLevel.READABLE, Watch.NONE);
                }
            }
        });
    }

    /**
     * Nearly a gigabyte of zeros behind a disk's start, packed to less than a hundred kilobytes: read on and on, in little memory, until
     * somebody stops it.
     */
    @Test
    void whatUnpacksWithoutEndCanBeStopped() throws IOException {
        Path disk = Medium.GPT_EXT4_1K.make(Files.createDirectories(root.resolve(".made")));
        Tools.run(root, "(head -c 1000000 '" + disk + "'; head -c 900M /dev/zero) | zstd -q -3 > bomb");
        ElsewhereImage bomb = ElsewhereScan.in(root, "", Watch.NONE).images().get(0);
        int[] told = {0};
        Watch impatient = new Watch() {
            @Override
            public void advanced(Progress progress) {
                told[0]++;
            }

            @Override
            public boolean stopRequested() {
                return told[0] >= 1;
            }
        };
        IOException stopped = org.junit.jupiter.api.Assertions.assertThrows(IOException.class,
            () -> ElsewhereCheck.run(root, bomb, ProofLevel.READABLE, impatient));
        assertTrue(stopped.getMessage().startsWith("Stopped as asked"), stopped.getMessage());
    }

    /** A head of some bytes claimed gigabytes of memory. Sizes as xz(1) and zstd(1) give them. */
    @ParameterizedTest
    @CsvSource({"xz -9, true", "xz --lzma2=dict=1GiB, false", "zstd -q --long=27, true", "zstd -q --long=30, false"})
    void memoryClaimedByAHeadHasALimit(String pack, boolean usual) throws IOException {
        Path disk = Medium.GPT_EXT4_1K.make(Files.createDirectories(root.resolve(".made")));
        Tools.run(root, pack + " < '" + disk + "' > packed");
        var found = ElsewhereScan.in(root, "", Watch.NONE).images();
        assertEquals(usual, !found.isEmpty() && ElsewhereCheck.run(root, found.get(0), ProofLevel.READABLE, Watch.NONE).outcome().ok(),
            found.toString());
    }

    @Test
    void aListOfDigestsIsReadWhateverStandsInIt() throws IOException {
        Files.write(root.resolve("SHA256SUMS"),
            List.of("# made by hand", "", "not a line", "a".repeat(64) + "  disk.img", "b".repeat(64) + "  ../escape",
                "c".repeat(64) + " *./second.img",
                "SHA256 (third.img) = " + "D".repeat(64), "e".repeat(64) + "  disk.img", "f".repeat(63) + "  short.img"));
        Files.writeString(root.resolve("fourth.img.sha256"), "1".repeat(64) + "\n");
        DigestLists lists = DigestLists.of(root);
        assertEquals("a".repeat(64), lists.of("disk.img").orElseThrow().digest(), "the first that names it counts");
        assertEquals("c".repeat(64), lists.of("second.img").orElseThrow().digest());
        assertEquals("d".repeat(64), lists.of("third.img").orElseThrow().digest());
        assertEquals("fourth.img.sha256", lists.of("fourth.img").orElseThrow().source());
        for (String none : List.of("escape", "../escape", "short.img", "")) {
            assertTrue(lists.of(none).isEmpty(), none);
        }
    }
}
