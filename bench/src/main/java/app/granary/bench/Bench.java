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

/**
 * Prints each figure as a ratio to a general tool on the same work in the same run; the two take turns, and the median of the ratios
 * counts. Arguments: the start script, a folder with about 15 GiB free, and how many rounds.
 */
public final class Bench {
    private final String granary;
    private final Path folder;
    private final int rounds;
    private boolean missed;

    private Bench(String granary, Path folder, int rounds) {
        this.granary = granary;
        this.folder = folder;
        this.rounds = rounds;
    }

    public static void main(String[] args) throws IOException, InterruptedException {
        Bench bench = new Bench(args[0], Files.createDirectories(Path.of(args[1])), Integer.parseInt(args[2]));
        bench.run();
        System.exit(bench.missed ? 1 : 0);
    }

    private void run() throws IOException, InterruptedException {
        inspectAgainstSha256sum();
        inventory();
        Path found = folder.resolve("found.img");
        Path zeroed = folder.resolve("zeroed.img");
        Disks.make(found, 3L << 30, 1330L << 20, 768L << 20);
        Disks.zeroFree(found, zeroed);
        captureAgainstZstd("3 GiB disk as found", found, 0.85, 1.0);
        captureAgainstZstd("the same, free blocks zeroed", zeroed, 1.1, 1.05);
        verifyAgainstZstd(found);
        estimateAgainstCapture(found);
        Files.delete(found);
        Files.delete(zeroed);
        largeAgainstSmall();
        System.out.println(missed ? "some figures were missed" : "all figures were met");
    }

    /** A figure of its own heap: the script passes the options on to Java. */
    private void inspectAgainstSha256sum() throws IOException, InterruptedException {
        Path disk = folder.resolve("ntfs.img");
        Path plain = folder.resolve("plain");
        NtfsDisk.make(disk);
        Tool.shell("head -c 536870912 /dev/urandom > '" + plain + "'");
        List<Double> ratios = new ArrayList<>();
        for (int i = 0; i <= rounds; i++) {
            double general = Tool.shell("sha256sum '" + plain + "'");
            double ours = granaryWith("-Xmx64m", "inspect", "--json", disk.toString());
            if (i > 0) {
                ratios.add(ours / general);
            }
        }
        report("inspect of 2 TB of NTFS, half full, heap of 64 MiB, time to sha256sum of 512 MiB", ratios, 0.5);
        System.out.printf("    %d GB used of %d GB%n", number("usedBytes") / 1_000_000_000, number("sizeBytes") / 1_000_000_000);
        Files.delete(disk);
        Files.delete(plain);
    }

    private void inventory() throws IOException, InterruptedException {
        Path home = folder.resolve("home");
        Tool.shell("rm -rf '" + home + "'; mkdir -p '" + home + "'");
        try (InventoryBench bench = new InventoryBench(granary, home)) {
            report("all of 500 computers and 1 200 disks, 95th of 100 answers, in units of 50 ms", List.of(bench.p95() / 50), 1.0);
        }
        Tool.shell("rm -rf '" + home + "'");
    }

    private void captureAgainstZstd(String what, Path disk, double timeGoal, double sizeGoal) throws IOException, InterruptedException {
        Path out = folder.resolve("out.zst");
        List<Double> ratios = new ArrayList<>();
        long stored = 0;
        for (int i = 0; i <= rounds; i++) {
            double general = Tool.shell("zstd -3 -T2 -c '" + disk + "' | tee '" + out + "' | sha256sum");
            double ours = capture(disk);
            stored = number("storedBytes");
            if (i > 0) { // the first round warms the caches
                ratios.add(ours / general);
            }
        }
        report("capture, checked, " + what + ", time to zstd | tee | sha256sum", ratios, timeGoal);
        report("    stored size to zstd", List.of((double) stored / Files.size(out)), sizeGoal);
        Files.delete(out);
    }

    private void verifyAgainstZstd(Path disk) throws IOException, InterruptedException {
        capture(disk);
        Path stream = folder.resolve("bag/data/disk.img.zst.000");
        List<Double> ratios = new ArrayList<>();
        for (int i = 0; i <= rounds; i++) {
            double general = Tool.shell("zstd -dc < '" + stream + "' | sha256sum");
            double ours = granary("verify", "--depth", "frames", folder.resolve("bag").toString());
            if (i > 0) {
                ratios.add(ours / general);
            }
        }
        report("verify digests and frames, time to zstd -dc | sha256sum", ratios, 0.5);
    }

    private void estimateAgainstCapture(Path disk) throws IOException, InterruptedException {
        List<Double> ratios = new ArrayList<>();
        int inside = 0;
        for (int i = 0; i <= rounds; i++) {
            double whole = capture(disk);
            long stored = number("storedBytes");
            double estimate = granary("estimate", "--json", "--seed", "" + i, disk.toString());
            inside += number("lowBytes") <= stored && stored <= number("highBytes") ? 1 : 0;
            if (i > 0) {
                ratios.add(estimate / whole);
            }
        }
        report("estimate, time to capture", ratios, 0.1);
        System.out.printf("    the actual size lay within low and high in %d of %d draws%n", inside, rounds + 1);
        missed |= inside < (rounds + 1) * 0.6;
    }

    private void largeAgainstSmall() throws IOException, InterruptedException {
        Path large = folder.resolve("large.img");
        Path small = folder.resolve("small.img");
        Disks.make(small, 4L << 30, 1900L << 20, 0);
        Disks.make(large, 1_000_204_886_016L, 1900L << 20, 0);
        List<Double> ratios = new ArrayList<>();
        for (int i = 0; i <= rounds; i++) {
            double ofSmall = capture(small);
            double ofLarge = capture(large);
            if (i > 0) {
                ratios.add(ofLarge / ofSmall);
            }
        }
        report("capture of 1 TB with 2 GB used, time to 4 GB with the same", ratios, 1.5);
        Files.delete(large);
        Files.delete(small);
        Tool.shell("rm -rf '" + folder.resolve("bag") + "'");
    }

    private double capture(Path disk) throws IOException, InterruptedException {
        Tool.shell("rm -rf '" + folder.resolve("bag") + "'");
        return granary("capture", "--json", "--level", "3", "--name", "bag", disk.toString(), folder.toString());
    }

    private double granary(String... arguments) throws IOException, InterruptedException {
        return granaryWith("", arguments);
    }

    private double granaryWith(String javaOptions, String... arguments) throws IOException, InterruptedException {
        List<String> command = new ArrayList<>(List.of("env", "GRANARY_JAVA_OPTIONS=" + javaOptions, granary));
        command.addAll(Arrays.asList(arguments));
        return Tool.seconds(folder.resolve("answer.json"), command);
    }

    private long number(String field) throws IOException {
        Matcher matcher = Pattern.compile('"' + field + "\" : (\\d+)").matcher(Files.readString(folder.resolve("answer.json")));
        if (!matcher.find()) {
            throw new IOException("no " + field + " in the answer");
        }
        return Long.parseLong(matcher.group(1));
    }

    private void report(String what, List<Double> ratios, double goal) {
        List<Double> sorted = ratios.stream().sorted().toList();
        double median = sorted.get(sorted.size() / 2);
        boolean met = median <= goal;
        missed |= !met;
        System.out.printf(Locale.ROOT, "%-78s %.3f (%.3f to %.3f), at most %.2f: %s%n", what, median, sorted.get(0), sorted.get(sorted.size() - 1), goal, met ? "met" : "MISSED");
    }
}
