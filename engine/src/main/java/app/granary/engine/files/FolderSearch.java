package app.granary.engine.files;

import app.granary.core.fault.FaultException;
import app.granary.core.filesystem.FileEntry;
import java.io.IOException;
import java.util.ArrayList;
import java.util.List;
import java.util.function.BooleanSupplier;

/**
 * Names below a folder in which a text stands.
 *
 * @param lines   those that were found, as they were come across
 * @param folders how many were looked through
 * @param whole   whether all were, and all that was found is here
 * @param unread  how many folders could not be read
 */
public record FolderSearch(List<FileLine> lines, int folders, boolean whole, int unread) {
    private static final int MOST = 500;

    public FolderSearch {
        lines = List.copyOf(lines);
    }

    /** @param goingOn asked before each folder; when it says no, what was found so far is the answer */
    public static FolderSearch run(DiskFiles.Found below, FilePlace place, String text, BooleanSupplier goingOn) throws IOException {
        List<FileLine> lines = new ArrayList<>();
        FolderWalk<FileEntry> walk = new FolderWalk<>(below.entry(), below.entry().id().number());
        int folders = 0;
        int unread = 0;
        while (!walk.ended() && lines.size() < MOST && goingOn.getAsBoolean()) {
            FolderWalk.Step<FileEntry> now = walk.next().orElseThrow();
            List<String> path = new ArrayList<>(place.names());
            path.addAll(now.names());
            folders++;
            try {
                for (FileEntry each : below.tree().list(now.folder())) {
                    if (FolderPage.contains(each.name(), text) && lines.size() < MOST) {
                        lines.add(FileLine.of(String.join("/", path), each));
                    }
                    if (each.isFolder() && each.isPlainName()) {
                        walk.enter(each, each.id().number(), now.below(each.name()));
                    }
                }
            } catch (FaultException damaged) {
                unread++;
            }
        }
        return new FolderSearch(lines, folders, walk.ended() && lines.size() < MOST, unread);
    }
}
