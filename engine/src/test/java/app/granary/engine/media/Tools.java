package app.granary.engine.media;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.util.List;

/** The system's own tools, as the outside authority on bytes. */
public final class Tools {
    private Tools() {
    }

    /** What a script prints; it runs in {@code folder}, and a failure of any step of it is a failure here. */
    public static String run(Path folder, String script) {
        try {
            Process process = new ProcessBuilder(List.of("bash", "-c", "set -eo pipefail; export LC_ALL=C PATH=$PATH:/usr/sbin:/sbin; " + script))
                .directory(folder.toFile()).redirectErrorStream(true).start();
            process.getOutputStream().close();
            String out = new String(process.getInputStream().readAllBytes(), StandardCharsets.UTF_8);
            if (process.waitFor() != 0) {
                throw new AssertionError(script + "\n" + out);
            }
            return out;
        } catch (IOException | InterruptedException failed) {
            throw new AssertionError(script, failed);
        }
    }
}
