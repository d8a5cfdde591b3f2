package app.granary.bench;

import java.io.File;
import java.io.IOException;
import java.nio.file.Path;
import java.util.List;

/** Runs a program as a whole process and times it from outside. */
final class Tool {
    private Tool() {
    }

    /** Seconds of wall time; output goes to {@code to}. */
    static double seconds(Path to, List<String> command) throws IOException, InterruptedException {
        long began = System.nanoTime();
        Process process = new ProcessBuilder(command).redirectErrorStream(true).redirectOutput(to == null ? ProcessBuilder.Redirect.DISCARD
            : ProcessBuilder.Redirect.to(to.toFile())).redirectInput(new File("/dev/null")).start();
        int exit = process.waitFor();
        if (exit != 0) {
            throw new IOException(String.join(" ", command) + " ended with " + exit + (to == null ? "" : ", see " + to));
        }
        return (System.nanoTime() - began) / 1e9;
    }

    /** How a script ended, for what may fail. */
    static int status(String script) throws IOException, InterruptedException {
        return new ProcessBuilder("bash", "-c", "PATH=$PATH:/usr/sbin:/sbin; " + script).redirectErrorStream(true)
            .redirectOutput(ProcessBuilder.Redirect.DISCARD).redirectInput(new File("/dev/null")).start().waitFor();
    }

    static double shell(String script) throws IOException, InterruptedException {
        return seconds(null, List.of("bash", "-c", "set -o pipefail; PATH=$PATH:/usr/sbin:/sbin; " + script));
    }
}
