package app.granary.core.journal;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertThrows;
import static org.junit.jupiter.api.Assertions.assertTrue;

import java.util.List;
import java.util.Random;
import java.util.stream.IntStream;
import org.junit.jupiter.api.RepeatedTest;
import org.junit.jupiter.api.RepetitionInfo;
import org.junit.jupiter.api.Test;

class LineSieveTest {
    private static final List<String> NONE = List.of();

    private static boolean among(List<LineSieve.Lines> chosen, long number) {
        return chosen.stream().anyMatch(lines -> lines.from() <= number && number <= lines.to());
    }

    /** The plain search is the model: what it finds, the sieve lets through. */
    @RepeatedTest(50)
    void noLineThatHoldsTheTextIsLeftOut(RepetitionInfo seed) {
        Random random = new Random(seed.getCurrentRepetition());
        List<String> lines = IntStream.range(0, 1 + random.nextInt(300))
            .mapToObj(i -> random.ints(random.nextInt(60), 'a', 'a' + 2 + random.nextInt(24)).collect(StringBuilder::new,
                (text, letter) -> text.append((char) letter), StringBuilder::append).toString())
            .toList();
        LineSieve sieve = new LineSieve();
        for (int i = 0; i < lines.size(); i++) {
            sieve.add(i + 1, lines.get(i), List.of("by " + i % 7));
        }
        for (int asked = 0; asked < 100; asked++) {
            String source = lines.get(random.nextInt(lines.size()));
            int from = random.nextInt(source.length() + 1);
            String text = source.substring(from, from + random.nextInt(source.length() - from + 1));
            for (int i = 0; i < lines.size(); i++) {
                assertTrue(!lines.get(i).contains(text) || among(sieve.mayHold(text, List.of("by " + i % 7)), i + 1), text);
            }
        }
    }

    @Test
    void whatStandsInOneLineOrNoneIsFoundWithoutReadingTheRest() {
        LineSieve sieve = new LineSieve();
        for (int i = 1; i <= 10_000; i++) {
            sieve.add(i, "image pc-" + i % 50 + "-disk made on peg-" + i % 12 + (i == 7777 ? ", needle" : ""), List.of("ada"));
        }
        assertEquals(List.of(new LineSieve.Lines(7744, 7807)), sieve.mayHold("needle", NONE));
        assertEquals(List.of(), sieve.mayHold("never written", NONE));
        assertEquals(List.of(), sieve.mayHold("image", List.of("grace")));
        List<LineSieve.Lines> all = List.of(new LineSieve.Lines(0, 10_000));
        assertEquals(all, sieve.mayHold("image", List.of("ada")));
        assertEquals(all, sieve.mayHold("xq", NONE), "two letters exclude nothing");
        assertEquals(10_000, sieve.last());
        assertThrows(IllegalArgumentException.class, () -> sieve.add(10_000, "again", NONE));
    }
}
