package app.granary.bench;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Locale;

/**
 * Who used the processor between two moments, as the kernel counts it (proc(5): {@code /proc/stat} and {@code /proc/PID/stat}, in
 * hundredths of a second). It shows whether a time was spent on work or on waiting.
 *
 * @param busy of all cores, all programs together, with what the kernel did for them
 * @param idle of all cores, with waiting for drives
 * @param stolen of all cores, that a virtual machine's host gave to others: where that is much, a time says nothing
 * @param ended what programs used that were started from here and have ended
 */
record Processor(long busy, long idle, long stolen, long ended) {
    private static final int STOLEN = 8;
    private static final double TICKS = 100;

    static Processor now() throws IOException {
        String[] all = Files.readAllLines(Path.of("/proc/stat")).get(0).trim().split("\\s+");
        long busy = 0;
        for (int i = 1; i <= 8; i++) {
            busy += i == 4 || i == 5 || i == STOLEN ? 0 : Long.parseLong(all[i]);
        }
        String[] own = fields("self");
        return new Processor(busy, Long.parseLong(all[4]) + Long.parseLong(all[5]), Long.parseLong(all[STOLEN]),
            Long.parseLong(own[13]) + Long.parseLong(own[14]));
    }

    /** @return hundredths of a second that a program has used so far */
    static long of(long pid) throws IOException {
        String[] fields = fields("" + pid);
        return Long.parseLong(fields[11]) + Long.parseLong(fields[12]);
    }

    /** What stands behind the program's name, which may hold spaces. */
    private static String[] fields(String pid) throws IOException {
        String line = Files.readString(Path.of("/proc", pid, "stat"));
        return line.substring(line.lastIndexOf(')') + 2).split(" ");
    }

    /** @return such as "cores busy for 9.1 s, idle 0.5, stolen 0.1" since a moment before */
    String since(Processor before) {
        return String.format(Locale.ROOT, "cores busy for %.1f s, idle %.1f, stolen %.1f", (busy - before.busy) / TICKS,
            (idle - before.idle) / TICKS, (stolen - before.stolen) / TICKS);
    }

    /** @return seconds that programs used which were started and ended since a moment before */
    double endedSince(Processor before) {
        return (ended - before.ended) / TICKS;
    }

    static double seconds(long ticks) {
        return ticks / TICKS;
    }
}
