package app.granary.engine.restore;

import app.granary.core.layout.Placed;
import app.granary.core.layout.RestoreLayout;
import app.granary.engine.bag.Bag;
import app.granary.engine.bag.Digests;
import java.io.IOException;
import java.nio.channels.FileChannel;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.nio.file.StandardOpenOption;
import java.util.List;

/** How far a restore got, in a small file: what was to be done as one line, and the number of chunks that are surely on the target as another. */
public final class RestoreLog {
    private static final int LONGEST = 4096;

    private final Path file;
    private final String targetSerial;

    public RestoreLog(Path file, String targetSerial) {
        this.file = file;
        this.targetSerial = targetSerial;
    }

    /** Image, target and layout in one line: work that differs in any of them is not carried on. */
    private String task(Bag bag, RestoreLayout layout) throws IOException {
        StringBuilder out = new StringBuilder(Digests.of(bag.folder().resolve(Bag.MANIFEST))).append(" onto ").append(targetSerial).append(' ').append(layout.target().sizeBytes());
        for (Placed each : layout.placed()) {
            out.append(' ').append(each.to().number()).append('@').append(each.to().startBytes()).append('+').append(each.to().sizeBytes());
        }
        return out.toString();
    }

    /** Chunks that need not be written again; 0 where nothing is known, or of other work. */
    long done(Bag bag, RestoreLayout layout) throws IOException {
        if (!Files.exists(file) || Files.size(file) > LONGEST) {
            return 0;
        }
        List<String> lines = Files.readAllLines(file, StandardCharsets.UTF_8);
        boolean same = lines.size() == 2 && lines.get(0).equals(task(bag, layout)) && lines.get(1).matches("[0-9]{1,15}");
        return same ? Long.parseLong(lines.get(1)) : 0;
    }

    void note(Bag bag, RestoreLayout layout, long chunks) throws IOException {
        Path partial = file.resolveSibling(file.getFileName() + ".partial");
        Files.writeString(partial, task(bag, layout) + "\n" + chunks + "\n");
        try (FileChannel channel = FileChannel.open(partial, StandardOpenOption.WRITE)) {
            channel.force(true);
        }
        Files.move(partial, file, StandardCopyOption.ATOMIC_MOVE, StandardCopyOption.REPLACE_EXISTING);
    }

    void done() throws IOException {
        Files.deleteIfExists(file);
    }
}
