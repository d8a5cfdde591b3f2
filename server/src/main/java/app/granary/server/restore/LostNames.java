package app.granary.server.restore;

import java.util.ArrayList;
import java.util.List;

/**
 * Files that lie where something is missing.
 *
 * @param files by name, as far as they are known
 * @param count how many there are
 */
record LostNames(List<String> files, long count) {
    /** Characters of names of files, so that they fit their column however they are written. */
    private static final int MOST = 15_000;

    /** As many as fit, and how many there are besides. */
    List<String> told() {
        List<String> told = new ArrayList<>();
        long room = MOST;
        for (String file : files) {
            room -= file.length();
            if (room > 0) {
                told.add(file);
            }
        }
        if (count > told.size()) {
            told.add("and " + (count - told.size()) + " more");
        }
        return told;
    }
}
