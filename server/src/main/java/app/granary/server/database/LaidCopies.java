package app.granary.server.database;

import app.granary.engine.host.Shelf;
import app.granary.server.home.StartTrouble;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.util.Comparator;
import java.util.Set;
import java.util.TreeSet;

/**
 * Which copies of its database this Granary laid on which destination. Only those are ever removed there: other offices may keep theirs
 * beside them.
 */
record LaidCopies(Path folder) {
    /** On a destination as at home. */
    static final int KEPT = 14;

    /** Notes a copy that was laid there, and removes the oldest of those noted past {@link #KEPT}; never the newest. */
    void prune(String destinationId, Shelf shelf, String newest) throws IOException {
        Path list = folder.resolve("laid-" + destinationId.replaceAll("[^A-Za-z0-9-]", "_") + ".txt");
        Set<String> laid = new TreeSet<>(Comparator.reverseOrder());
        laid.addAll(Files.exists(list) ? Files.readAllLines(list) : Set.of());
        laid.add(newest);
        for (String old : laid.stream().skip(KEPT).filter(each -> StartTrouble.COPY.matcher(each).matches() && !each.equals(newest))
            .toList()) {
            shelf.removeFile(Copies.FOLDER, old);
            laid.remove(old);
        }
        Path partial = list.resolveSibling(list.getFileName() + ".partial");
        Files.write(partial, laid);
        Files.move(partial, list, StandardCopyOption.ATOMIC_MOVE, StandardCopyOption.REPLACE_EXISTING);
    }
}
