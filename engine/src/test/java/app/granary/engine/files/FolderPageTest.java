package app.granary.engine.files;

import static org.junit.jupiter.api.Assertions.assertArrayEquals;
import static org.junit.jupiter.api.Assertions.assertEquals;

import app.granary.core.filesystem.FileEntry;
import app.granary.core.filesystem.FileNames;
import java.io.IOException;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Locale;
import java.util.OptionalLong;
import java.util.SplittableRandom;
import java.util.stream.IntStream;
import org.junit.jupiter.api.Test;

class FolderPageTest {
    private static final String[] LETTERS = {"a", "A", "b", "ä", "Ä", "\0", "1", " ", "長", "\uD83D\uDE00", ".", "name-"};

    private static FileEntry entry(String name, boolean folder) {
        return new FileEntry(name, folder ? FileEntry.Kind.FOLDER : FileEntry.Kind.FILE, folder ? 0 : name.length(), Instant.EPOCH, "",
            new FileEntry.Id(name.hashCode(), false));
    }

    /** The order is that of the plain rule, however it is reached: folders first, by their names in any case, then by the names. */
    @Test
    void namesComeInTheOrderOfThePlainRule() {
        SplittableRandom random = new SplittableRandom(20);
        for (int round = 0; round < 400; round++) {
            String all = round % 3 == 0 ? "name-" : "";
            List<FileEntry> entries = new ArrayList<>();
            for (int i = random.nextInt(round % 50 == 0 ? 9_000 : 40); i > 0; i--) {
                StringBuilder name = new StringBuilder(all);
                for (int letters = random.nextInt(9); letters > 0; letters--) {
                    name.append(LETTERS[random.nextInt(LETTERS.length)]);
                }
                entries.add(entry(name.toString(), random.nextInt(4) == 0));
            }
            Comparator<Integer> plain = Comparator.comparing((Integer each) -> !entries.get(each).isFolder())
                .thenComparing(each -> entries.get(each).name().toLowerCase(Locale.ROOT)).thenComparing(each -> entries.get(each).name());
            assertArrayEquals(IntStream.range(0, entries.size()).boxed().sorted(plain).mapToInt(Integer::intValue).toArray(),
                NameOrder.of(FileNames.of(entries)));
        }
    }

    private static FolderPage.Asked byName(String text, boolean descending, int from, int most, boolean weighed) {
        return new FolderPage.Asked(text, FolderPage.Sort.NAME, descending, from, most, weighed);
    }

    /** A folder that notes how many of what its names stand for were read. */
    private static final class Counting implements FileNames {
        private final List<FileEntry> all;
        private int read;

        Counting(int count) {
            this.all = IntStream.range(0, count).mapToObj(i -> entry("file-" + i, i % 1000 == 0)).toList();
        }

        @Override
        public int count() {
            return all.size();
        }

        @Override
        public String name(int place) {
            return all.get(place).name();
        }

        @Override
        public boolean isFolder(int place) {
            return all.get(place).isFolder();
        }

        @Override
        public List<FileEntry> entries(int[] places) {
            read += places.length;
            return IntStream.of(places).mapToObj(all::get).toList();
        }
    }

    /** Of a large folder what is shown is read, and each once; all of it for its weight, or for an order by what the names stand for. */
    @Test
    void ofALargeFolderOnlyWhatIsShownIsRead() throws IOException {
        Counting names = new Counting(60_000);
        OpenFolder folder = new OpenFolder(names);
        FolderPage first = folder.page(byName("", false, 0, 200, false));
        assertEquals(200, names.read);
        assertEquals(OptionalLong.empty(), first.bytes());
        assertEquals(List.of("file-0", "file-1000", "file-10000"), first.lines().subList(0, 3).stream().map(FileLine::name).toList());
        FolderPage found = folder.page(byName("E-999", true, 0, 5, false));
        assertEquals(205, names.read);
        assertEquals(11, found.matching());
        assertEquals(List.of("file-9999", "file-9998"), found.lines().subList(0, 2).stream().map(FileLine::name).toList());
        long bytes = names.all.stream().mapToLong(FileEntry::bytes).sum();
        FolderPage heaviest = folder.page(new FolderPage.Asked("", FolderPage.Sort.BYTES, true, 60, 1, false));
        assertEquals(60_000, names.read, "none twice");
        assertEquals(OptionalLong.of(bytes), heaviest.bytes());
        assertEquals("file-10001", heaviest.lines().get(0).name(), "of those alike the first by name");
        assertEquals(OptionalLong.of(bytes), new OpenFolder(new Counting(60_000)).page(byName("", false, 0,
            1, true)).bytes());
        assertEquals(OptionalLong.of(new Counting(900).all.stream().mapToLong(FileEntry::bytes).sum()),
            new OpenFolder(new Counting(900)).page(byName("", false, 5, 3, false)).bytes(), "a small one");
    }
}
