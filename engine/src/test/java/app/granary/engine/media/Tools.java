package app.granary.engine.media;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.util.List;

/** The system's own tools, as the outside authority on bytes. */
public final class Tools {
    private Tools() {
    }

    /** {@code flip FILE AT}: changes one bit of the byte at an offset. Writing a byte over it would change nothing once in 256 times. */
    private static final String FLIP = "flip() { local b; b=$(od -An -tu1 -j \"$2\" -N 1 \"$1\"); printf \"\\\\$(printf %03o $((b ^ "
        + "16)))\" | dd of=\"$1\" bs=1 seek=\"$2\" conv=notrunc status=none; }; ";

    /** What a script prints; it runs in {@code folder}, and a failure of any step of it is a failure here. It may use {@code flip}. */
    public static String run(Path folder, String script) {
        try {
            Process process = new ProcessBuilder(List.of("bash", "-c", "set -eo pipefail; export LC_ALL=C PATH=$PATH:/usr/sbin:/sbin; "
                + FLIP + script))
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
