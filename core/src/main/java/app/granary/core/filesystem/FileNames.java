package app.granary.core.filesystem;

import java.io.IOException;
import java.util.ArrayList;
import java.util.List;
import java.util.stream.IntStream;

/**
 * The names in a folder, in the order the folder has them, without itself and the folder above. What a name stands for is read when it is
 * asked for: of a large folder most of it is never shown. Safe for several threads.
 */
public interface FileNames {
    int count();

    String name(int place);

    /** Whether the folder says that it is one. Of a damaged file system what it stands for may say otherwise. */
    boolean isFolder(int place);

    /**
     * @param places of names, 0 and up
     * @return in the order of the places
     */
    List<FileEntry> entries(int[] places) throws IOException;

    /** All of them. */
    default List<FileEntry> entries() throws IOException {
        return entries(IntStream.range(0, count()).toArray());
    }

    /** Of a file system whose folders tell of each name all there is. */
    static FileNames of(List<FileEntry> entries) {
        List<FileEntry> all = List.copyOf(entries);
        return new FileNames() {
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
                List<FileEntry> out = new ArrayList<>(places.length);
                for (int each : places) {
                    out.add(all.get(each));
                }
                return out;
            }
        };
    }
}
