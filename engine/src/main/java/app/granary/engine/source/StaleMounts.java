package app.granary.engine.source;

import app.granary.engine.tool.MountTable;
import app.granary.engine.tool.SystemTool;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.util.List;

/** What a program that was killed left mounted in a folder of Granary's own, so that the folder cannot be removed. */
public final class StaleMounts {
    private static final Path MOUNTS = Path.of("/proc/self/mounts");
    private static final Duration PATIENCE = Duration.ofSeconds(20);

    private StaleMounts() {
    }

    /** Unmounts what is shown through FUSE within a folder that is Granary's alone. Nothing happens where nothing is. */
    public static void release(Path folder) throws IOException {
        if (!Files.isReadable(MOUNTS)) {
            return;
        }
        String within = folder.toAbsolutePath().normalize() + "/";
        for (String line : Files.readAllLines(MOUNTS, StandardCharsets.UTF_8)) {
            String[] words = line.split(" ");
            String at = words.length > 2 ? MountTable.plain(words[1]) : "";
            if (at.startsWith(within) && words[2].startsWith("fuse")) {
                SystemTool.run(List.of("umount", "-l", at), true, PATIENCE, "Install the package mount.");
            }
        }
    }
}
