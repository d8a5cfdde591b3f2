package app.granary.bench;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/** Figures of one run: each a ratio to a general tool on the same work, the median of some rounds against what is asked of it. */
final class Measure {
    final Path folder;
    final int rounds;
    private final String granary;
    private boolean missed;
    private List<String> within = List.of();

    Measure(String granary, Path folder, int rounds) {
        this.granary = granary;
        this.folder = folder;
        this.rounds = rounds;
    }

    /** From now on its commands are started by another, such as taskset; by none where that is empty. */
    void within(List<String> starter) {
        within = List.copyOf(starter);
    }

    /** Whether any figure so far was. */
    boolean missed() {
        return missed;
    }

    void missedIf(boolean so) {
        missed |= so;
    }

    String granary() {
        return granary;
    }

    double capture(Path disk) throws IOException, InterruptedException {
        Tool.shell("rm -rf '" + folder.resolve("bag") + "'");
        return granary("capture", "--json", "--level", "3", "--name", "bag", disk.toString(), folder.toString());
    }

    double granary(String... arguments) throws IOException, InterruptedException {
        return granaryWith("", arguments);
    }

    double granaryWith(String javaOptions, String... arguments) throws IOException, InterruptedException {
        List<String> command = new ArrayList<>(within);
        command.addAll(List.of("env", "GRANARY_JAVA_OPTIONS=" + javaOptions, granary));
        command.addAll(Arrays.asList(arguments));
        return Tool.seconds(folder.resolve("answer.json"), command);
    }

    long number(String field) throws IOException {
        Matcher matcher = Pattern.compile('"' + field + "\" : (\\d+)").matcher(Files.readString(folder.resolve("answer.json")));
        if (!matcher.find()) {
            throw new IOException("no " + field + " in the answer");
        }
        return Long.parseLong(matcher.group(1));
    }

    void report(String what, List<Double> ratios, double goal) {
        List<Double> sorted = ratios.stream().sorted().toList();
        double median = sorted.get(sorted.size() / 2);
        boolean met = median <= goal;
        missed |= !met;
        System.out.printf(Locale.ROOT, "%-78s %.3f (%.3f to %.3f), at most %.2f: %s%n", what, median, sorted.get(0),
            sorted.get(sorted.size() - 1), goal, met ? "met" : "MISSED");
    }
}
