package app.granary.core.journal;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertNotEquals;
import static org.junit.jupiter.api.Assertions.assertTrue;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.SplittableRandom;
import org.junit.jupiter.api.Test;

class JournalChainTest {
    private static final Instant AT = Instant.parse("2026-11-24T02:14:00.123Z");

    private record Sealed(JournalLine line, String seal) {
    }

    private static JournalLine line(long number, String sentence) {
        return new JournalLine(number, AT.plusSeconds(number), "technician", "capture", "GNOMON card", "CF-0077-GN", "done", sentence,
            "storedBytes=12", "/images/x", 0);
    }

    private static List<Sealed> journal(int lines) {
        List<Sealed> out = new ArrayList<>();
        String seal = JournalChain.START;
        for (int i = 1; i <= lines; i++) {
            seal = JournalChain.seal(seal, line(i, "Sentence " + i));
            out.add(new Sealed(line(i, "Sentence " + i), seal));
        }
        return out;
    }

    private static List<JournalChain.Break> check(List<Sealed> lines, long last, String seal) {
        JournalChain chain = new JournalChain();
        lines.forEach(each -> chain.next(each.line, each.seal));
        return chain.end(last, seal);
    }

    /** The system's own sha256sum over the same bytes says the same. */
    @Test
    void aSealIsWhatSha256sumSaysOfTheSealBeforeAndTheLine() throws IOException, InterruptedException {
        JournalLine line = new JournalLine(1, Instant.EPOCH, "ada", "note", "", "", "note", "Größe: 1\n2", "", "", 0);
        String bytes = JournalChain.START + "1:1\n1:0\n3:ada\n4:note\n0:\n0:\n4:note\n10:Größe: 1\n2\n0:\n0:\n1:0\n";
        Process sum = new ProcessBuilder("sha256sum").start();
        sum.getOutputStream().write(bytes.getBytes(StandardCharsets.UTF_8));
        sum.getOutputStream().close();
        assertEquals(new String(sum.getInputStream().readAllBytes(), StandardCharsets.US_ASCII).substring(0, 64),
            JournalChain.seal(JournalChain.START, line));
        assertEquals(0, sum.waitFor());
    }

    @Test
    void aWholeJournalHasNoBreakAndAnEmptyOneNeither() {
        List<Sealed> lines = journal(50);
        assertEquals(List.of(), check(lines, 50, lines.get(49).seal));
        assertEquals(List.of(), check(List.of(), 0, JournalChain.START));
    }

    /** Whatever is done to one line of a random journal is found, at that line. */
    @Test
    void anyChangeIsFoundWhereItIs() {
        SplittableRandom random = new SplittableRandom(6);
        for (int round = 0; round < 300; round++) {
            int size = 2 + random.nextInt(40);
            List<Sealed> lines = journal(size);
            String last = lines.get(size - 1).seal;
            int at = random.nextInt(size);
            switch (random.nextInt(4)) {
                case 0 -> lines.set(at, new Sealed(line(at + 1, "Another sentence"), lines.get(at).seal));
                case 1 -> lines.remove(at);
                case 2 -> lines.set(at, new Sealed(line(at + 1, "Forged"),
                    JournalChain.seal(at == 0 ? JournalChain.START : lines.get(at - 1).seal, line(at + 1, "Forged"))));
                default -> lines.add(at, lines.get(at));
            }
            List<JournalChain.Break> breaks = check(lines, size, last);
            long first = breaks.isEmpty() ? -1 : breaks.get(0).number();
            assertTrue(!breaks.isEmpty() && Math.abs(first - (at + 1)) <= 1, () -> "round at " + at + " of " + size + ": " + breaks);
        }
    }

    @Test
    void fieldsDoNotRunIntoEachOther() {
        JournalLine one = new JournalLine(1, AT, "ab", "c", "", "", "note", "", "", "", 0);
        JournalLine other = new JournalLine(1, AT, "a", "bc", "", "", "note", "", "", "", 0);
        assertNotEquals(JournalChain.seal(JournalChain.START, one), JournalChain.seal(JournalChain.START, other));
    }
}
