package app.granary.agent;

import app.granary.engine.host.RemoteFolders;
import app.granary.engine.line.LineFiles;
import app.granary.engine.remote.RemoteFileSystem;
import java.nio.file.Path;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.Optional;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/** What the office lends, by the names it gave: {@code remote/TOKEN/FOLDER}. Safe for several threads. */
final class LentFolders implements RemoteFolders {
    private static final Pattern NAME = Pattern.compile("remote/([0-9a-f]{32})/(.*)");
    private static final int MOST = 64;

    private final Map<String, RemoteFileSystem> known = new LinkedHashMap<>();
    private volatile Optional<Office> office = Optional.empty();

    /** Who lends. */
    void from(Office joined) {
        office = Optional.of(joined);
    }

    @Override
    public synchronized Optional<Folder> folder(String destinationId) {
        Matcher name = NAME.matcher(destinationId);
        if (!name.matches() || office.isEmpty()) {
            return Optional.empty();
        }
        if (known.size() >= MOST) {
            known.remove(known.keySet().iterator().next());
        }
        Path root = known.computeIfAbsent(name.group(1), token -> new RemoteFileSystem(new LineFiles(new Carrier(office.get(), token)),
            "the office")).root();
        return Optional.of(new Folder(root, name.group(2).isEmpty() ? root : root.resolve(name.group(2))));
    }
}
