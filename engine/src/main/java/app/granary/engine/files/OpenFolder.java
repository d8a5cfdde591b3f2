package app.granary.engine.files;

import app.granary.core.filesystem.FileEntry;
import app.granary.core.filesystem.FileNames;
import java.io.IOException;
import java.util.Arrays;
import java.util.Comparator;
import java.util.List;
import java.util.OptionalLong;
import java.util.stream.IntStream;

/**
 * A folder that is looked at: its names in order, and what was read so far of what they stand for. Of a large one only what is shown is
 * read, until somebody wants it by size or by date. Safe for several threads.
 */
public final class OpenFolder {
    /** A folder with no more names than these is read whole at once. */
    private static final int SMALL = 10_000;

    private final FileNames names;
    private final int[] inOrder;
    private final FileLine[] lines;

    public OpenFolder(FileNames names) {
        this.names = names;
        this.inOrder = NameOrder.of(names);
        this.lines = new FileLine[names.count()];
    }

    /** How many names it has. */
    public int count() {
        return inOrder.length;
    }

    /** What is the same by what is asked stays in the order of the names. */
    public FolderPage page(FolderPage.Asked asked) throws IOException {
        boolean whole = asked.weighed() || asked.sort() != FolderPage.Sort.NAME || count() <= SMALL;
        if (whole) {
            read(inOrder);
        }
        int[] matching = ordered(asked.text().isEmpty() ? inOrder
            : IntStream.of(inOrder).filter(each -> FolderPage.contains(names.name(each), asked.text())).toArray(), asked);
        int from = Math.min(matching.length, asked.from());
        int to = (int) Math.min(matching.length, (long) from + asked.most());
        List<FileLine> shown = read(Arrays.copyOfRange(matching, from, to));
        return new FolderPage(count(), whole ? OptionalLong.of(bytes()) : OptionalLong.empty(), matching.length, shown);
    }

    private synchronized int[] ordered(int[] places, FolderPage.Asked asked) {
        if (asked.sort() == FolderPage.Sort.NAME && !asked.descending()) {
            return places;
        }
        Comparator<Integer> by = switch (asked.sort()) {
            case NAME -> NameOrder.byName(names);
            case BYTES -> Comparator.comparingLong(each -> lines[each].bytes());
            case MODIFIED -> Comparator.comparing(each -> lines[each].modifiedAt());
        };
        return IntStream.of(places).boxed().sorted(Comparator.comparing((Integer each) -> !names.isFolder(each))
            .thenComparing(asked.descending() ? by.reversed() : by)).mapToInt(Integer::intValue).toArray();
    }

    private synchronized List<FileLine> read(int[] places) throws IOException {
        int[] unread = IntStream.of(places).filter(each -> lines[each] == null).toArray();
        List<FileEntry> entries = names.entries(unread);
        for (int i = 0; i < unread.length; i++) {
            lines[unread[i]] = FileLine.of("", entries.get(i));
        }
        return IntStream.of(places).mapToObj(each -> lines[each]).toList();
    }

    private synchronized long bytes() {
        return Arrays.stream(lines).mapToLong(FileLine::bytes).sum();
    }
}
