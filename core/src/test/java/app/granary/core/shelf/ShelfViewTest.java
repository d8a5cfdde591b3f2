package app.granary.core.shelf;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertFalse;
import static org.junit.jupiter.api.Assertions.assertTrue;

import app.granary.core.proof.Evidence;
import app.granary.core.proof.ProofLevel;
import app.granary.core.proof.Standing;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.stream.Collectors;
import org.junit.jupiter.api.Test;

class ShelfViewTest {
    private static final Instant NOW = Instant.parse("2026-11-27T09:00:00Z");

    private static Standing standing(ProofLevel level, boolean ok, int daysAgo) {
        return Standing.of(List.of(new Evidence(level, ok, NOW.minus(Duration.ofDays(daysAgo)), "ada", "PEG-1", 1)), 90);
    }

    private static CopyOnShelf copy(String id, String image, String drive, Standing standing, boolean released) {
        return new CopyOnShelf(id, image, "disk of " + image.charAt(0), NOW.minus(Duration.ofDays(image.charAt(1))), drive, 10, standing,
            released, !drive.isEmpty());
    }

    private static final Standing SOUND = standing(ProofLevel.SOUND, true, 1);
    private static final Standing READABLE = standing(ProofLevel.READABLE, true, 2);
    private static final Standing DAMAGED = standing(ProofLevel.READABLE, false, 3);
    private static final Standing STALE = standing(ProofLevel.READABLE, true, 91);
    private static final Standing UNCHECKED = Standing.of(List.of(), 90);

    @Test
    void anImageIsOnceWhateverItLiesIn() {
        ShelfView shelf = ShelfView.of(List.of(copy("1", "a1", "cairn", READABLE, false), copy("2", "a1", "peg", DAMAGED, false),
            copy("3", "a2", "cairn", STALE, false),
            copy("4", "b1", "", UNCHECKED, false), copy("5", "b2", "peg", SOUND, true), copy("6", "c1", "cairn", SOUND, false),
            copy("7", "c1", "peg", READABLE, false)));
        assertEquals(List.of("a1", "b1", "c1", "a2", "b2"), shelf.images().stream().map(ImageOnShelf::id).toList());
        assertEquals(new ShelfView.Figures(4, 3, 6, 60, 1, 1), shelf.figures());
        assertEquals(List.of("7", "6"), shelf.images().get(2).copies().stream().map(CopyOnShelf::id).toList(),
            "the one proven furthest first");
        assertEquals("1", shelf.images().get(0).twin().orElseThrow().id());
        assertEquals(Map.of("cairn", 3L, "peg", 2L), shelf.byDrive());
        assertEquals(List.of("a1", "a2", "b1"), ids(shelf.only(ShelfView.Show.ONE_COPY, "", NOW)),
            "a damaged copy is none, a line on paper is none");
        assertEquals(List.of("a2"), ids(shelf.only(ShelfView.Show.NOT_PROVEN, "", NOW)), "what was never seen cannot be proven");
        assertEquals(List.of("a1"), ids(shelf.only(ShelfView.Show.DAMAGED, "", NOW)));
        assertEquals(List.of("a1", "b2", "c1"), ids(shelf.only(ShelfView.Show.ALL, "peg", NOW)));
        assertTrue(shelf.images().get(4).released());
    }

    private static List<String> ids(ShelfView view) {
        return view.images().stream().map(ImageOnShelf::id).sorted().toList();
    }

    /** Whatever there is, in whatever order it comes: figures add up, and a view shows no more than its count. */
    @Test
    void figuresAddUp() {
        for (int seed = 0; seed < 300; seed++) {
            Random random = new Random(seed);
            List<CopyOnShelf> copies = new ArrayList<>();
            for (int i = 0; i < random.nextInt(30); i++) {
                copies.add(copy("" + i, "" + "abc".charAt(random.nextInt(3)) + random.nextInt(4),
                    random.nextInt(6) == 0 ? "" : "drive-" + random.nextInt(3),
                    List.of(SOUND, READABLE, DAMAGED, STALE, UNCHECKED).get(random.nextInt(5)), random.nextInt(5) == 0));
            }
            ShelfView shelf = ShelfView.of(copies);
            Collections.shuffle(copies, random);
            assertEquals(shelf, ShelfView.of(copies), "the order they come in says nothing, seed " + seed);
            ShelfView.Figures figures = shelf.figures();
            assertEquals(copies.stream().filter(copy -> !copy.released()).count(), figures.copies());
            assertEquals(copies.stream().filter(copy -> !copy.released()).map(CopyOnShelf::imageId).distinct().count(), figures.images());
            assertTrue(figures.twins() <= figures.damaged() && figures.images() <= figures.copies() && figures.disks() <= figures.images());
            assertEquals(shelf.images().size(), shelf.byDisk().values().stream().mapToInt(List::size).sum());
            for (ShelfView.Show show : ShelfView.Show.values()) {
                assertEquals(shelf.count(show, NOW), shelf.only(show, "", NOW).images().size());
            }
            for (ImageOnShelf image : shelf.images()) {
                assertFalse(image.twin().isPresent() && !image.damaged());
                assertEquals(1, image.copies().stream().map(CopyOnShelf::imageId).collect(Collectors.toSet()).size());
            }
        }
    }
}
