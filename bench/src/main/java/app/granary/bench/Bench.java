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
 * counts. Arguments: the start script, a folder with about 15 GiB free, how many rounds, and {@code captures}, {@code plans},
 * {@code proof}, {@code chunks} or {@code office} to measure only those.
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
        if (args.length > 3 && args[3].equals("plans")) {
            bench.plans();
        } else if (args.length > 3 && args[3].equals("proof")) {
            bench.proof();
        } else if (args.length > 3 && args[3].equals("chunks")) {
            bench.chunks();
        } else if (args.length > 3 && args[3].equals("office")) {
            bench.office();
        } else if (args.length > 3 && args[3].equals("restores")) {
            bench.restores();
        } else if (args.length > 3 && args[3].equals("captures")) {
            bench.captures();
        } else {
            bench.run();
        }
        System.out.println(bench.missed ? "some figures were missed" : "all figures were met");
        System.exit(bench.missed ? 1 : 0);
    }

    private void run() throws IOException, InterruptedException {
        inspectAgainstSha256sum();
        inventory();
        captures();
        plans();
        proof();
        restores();
        office();
    }

    /** Writing an image back into a file, and laying images onto targets. */
    private void restores() throws IOException, InterruptedException {
        Path disk = folder.resolve("restored-from.img");
        Path back = folder.resolve("back.img");
        Path plain = folder.resolve("plain.img");
        Disks.make(disk, 3L << 30, 1330L << 20, 768L << 20);
        capture(disk);
        Path stream = folder.resolve("bag/data/disk.img.zst.000");
        List<Double> written = new ArrayList<>();
        List<Double> compared = new ArrayList<>();
        List<Double> durable = new ArrayList<>();
        for (int i = 0; i <= rounds; i++) {
            Tool.shell("rm -f '" + plain + "' '" + back + "'; sync");
            double general = Tool.shell("zstd -dc -T2 < '" + stream + "' > '" + plain + "'");
            Tool.shell("rm -f '" + plain + "'; sync");
            double forced = Tool.shell("zstd -dc -T2 < '" + stream + "' > '" + plain + "' && sync '" + plain + "'");
            Tool.shell("rm -f '" + plain + "'; sync");
            double ours = granary("restore", "--no-compare", folder.resolve("bag").toString(), back.toString());
            Tool.shell("rm -f '" + back + "'; sync");
            double both = granary("restore", folder.resolve("bag").toString(), back.toString());
            if (i > 0) {
                written.add(ours / general);
                durable.add(ours / forced);
                compared.add(both / general);
            }
        }
        report("restore of 3 GiB, half full, to a file, time to zstd -dc -T2 > file", written, 0.7);
        // zstd leaves the file in memory, where a fall of power loses it; a restore does not end before it is on the device
        report("    the same to zstd -dc -T2 > file && sync file", durable, 0.9);
        report("the same, read back and compared", compared, 1.2);
        Tool.shell("rm -rf '" + folder.resolve("bag") + "' '" + back + "' '" + plain + "'");
        restoreOfEncrypted(disk, back, plain);
        LayoutBench.Figures layouts = LayoutBench.run();
        report("10 000 random layouts, in units of 2 s", List.of(layouts.seconds() / 2), 1.0);
        report("    of those that fit, share that breaks an invariant", List.of((double) layouts.broken() / layouts.fitted()), 0.0);
        System.out.printf("    %d of 10 000 fitted%n", layouts.fitted());
    }

    /** The same image encrypted, beside what opens an OpenPGP message on any machine. */
    private void restoreOfEncrypted(Path disk, Path back, Path plain) throws IOException, InterruptedException {
        Path secret = folder.resolve("secret");
        Files.writeString(secret, "chain and offset\n");
        granary("capture", "--json", "--level", "3", "--passphrase-file", secret.toString(), "--name", "bag", disk.toString(),
            folder.toString());
        List<Double> ratios = new ArrayList<>();
        for (int i = 0; i <= rounds; i++) {
            double general = Tool.shell("gpg --batch --quiet --pinentry-mode loopback --passphrase-file '" + secret + "' -d '"
                + folder.resolve("bag/data") + "'/disk.img*.gpg | zstd -dc > '" + plain + "'");
            double ours = granary("restore", "--passphrase-file", secret.toString(), folder.resolve("bag").toString(), back.toString());
            Tool.shell("rm -f '" + plain + "' '" + back + "'; sync");
            if (i > 0) {
                ratios.add(ours / general);
            }
        }
        // gpg has instructions for SHA-1 and AES-CFB that Java has not, and reads once; a restore reads the file systems' tables first, and
        // the target afterwards
        report("restore of the same, encrypted, read back and compared, to gpg -d | zstd -dc > file", ratios, 5.0);
        Tool.shell("rm -rf '" + folder.resolve("bag") + "' '" + disk + "' '" + secret + "'");
    }

    /** Pages of a big office, and the first load of the front end. */
    private void office() throws IOException, InterruptedException {
        Path home = Files.createDirectories(folder.resolve("office"));
        Tool.shell("rm -rf '" + home + "'/*");
        OfficeBench.Figures figures = new OfficeBench(granary, home).run();
        report("500 computers, 40 000 images, 300 000 lines: Today, ms of the 95th of 100", List.of(figures.today()), 150);
        report("the same: first page of Images, ms", List.of(figures.images()), 100);
        report("the same: retention over all, ms", List.of(figures.retention()), 500);
        report("the same: journal search, ms", List.of(figures.journal()), 200);
        report("the same: journal search to grep -i over the same lines", List.of(figures.journal() / figures.grep()), 3);
        report("first load in Chromium: script and style, compressed, in units of 350 kB", List.of(figures.first().bytes() / 350_000), 1.0);
        report("    largest content, in units of 1.5 s", List.of(figures.first().largestMillis() / 1500), 1.0);
        report("    layout shift", List.of(figures.first().shift()), 0.01);
        Tool.shell("rm -rf '" + home + "'");
    }

    private void captures() throws IOException, InterruptedException {
        Path found = folder.resolve("found.img");
        Path zeroed = folder.resolve("zeroed.img");
        Disks.make(found, 3L << 30, 1330L << 20, 768L << 20);
        Disks.zeroFree(found, zeroed);
        captureAgainstZstd("3 GiB disk as found", found, 0.7, 1.0);
        captureAgainstZstd("the same, free blocks zeroed", zeroed, 0.95, 1.03);
        verifyAgainstZstd(found);
        estimateAgainstCapture(found);
        Files.delete(found);
        Files.delete(zeroed);
        largeAgainstSmall();
    }

    private void chunks() throws IOException, InterruptedException {
        Path disk = folder.resolve("chunks.img");
        Disks.make(disk, 3L << 30, 1330L << 20, 768L << 20);
        ChunkSizeBench.run(disk);
        Files.delete(disk);
    }

    /** What is left after kills and pulled drives, what of harm is found, and how fast proving is. */
    private void proof() throws IOException, InterruptedException {
        Path disk = folder.resolve("proof.img");
        Path small = folder.resolve("small.img");
        Disks.make(disk, 3L << 30, 1330L << 20, 768L << 20);
        Disks.make(small, 24L << 20, 3L << 20, 1L << 20);
        fullAgainstDd();
        provingAgainstTools(disk);
        utilisation(disk);
        ProofBench proof = new ProofBench(granary, Files.createDirectories(folder.resolve("proof")), disk);
        report("read again at the end of every capture, share of the disk", List.of(proof.readAgainAtTheEnd()), 0.02);
        report("carrying on at 90 %, share of the disk read again", List.of(proof.readAgain()), 0.02);
        report("of 20 killed captures, share that came to no image", List.of(1 - proof.kills(20) / 20.0), 0.0);
        report("of 20 captures whose drive was pulled, share that came to no image", List.of(1 - proof.unplugs(20) / 20.0), 0.0);
        report("of 10 000 turned bits, share not found in their chunk", List.of(1 - proof.flips(small, 10_000) / 10_000.0), 0.0);
        report("of 500 cuts, swaps, renames and extra files, share not found", List.of(1 - proof.harms(small, 500) / 500.0), 0.0);
        Tool.shell("rm -rf '" + folder.resolve("proof") + "' '" + disk + "' '" + small + "'");
    }

    /** A disk full of what does not shrink, every block of it, in a heap of 256 MiB. */
    private void fullAgainstDd() throws IOException, InterruptedException {
        Path full = folder.resolve("full.img");
        Path out = folder.resolve("out");
        Tool.shell("head -c 2147483648 /dev/urandom > '" + full + "'");
        List<Double> ratios = new ArrayList<>();
        for (int i = 0; i <= rounds; i++) {
            double general = Tool.shell("dd if='" + full + "' bs=1M status=none | tee '" + out + "' | sha256sum");
            Tool.shell("rm -rf '" + folder.resolve("bag") + "'");
            double ours = granaryWith("-Xmx256m", "capture", "--json", "--all-blocks", "--no-check", "--codec", "none", "--name", "bag",
                full.toString(), folder.toString());
            if (i > 0) {
                ratios.add(ours / general);
            }
        }
        report("capture of 2 GiB that does not shrink, heap of 256 MiB, time to dd | tee | sha256sum", ratios, 1.1);
        Tool.shell("rm -rf '" + folder.resolve("bag") + "' '" + full + "' '" + out + "'");
    }

    private void provingAgainstTools(Path disk) throws IOException, InterruptedException {
        Tool.shell("rm -rf '" + folder.resolve("bag") + "'");
        granary("capture", "--json", "--level", "3", "--split", "200000000", "--name", "bag", disk.toString(), folder.toString());
        String data = folder.resolve("bag/data").toString();
        int cores = Runtime.getRuntime().availableProcessors();
        List<Double> sound = new ArrayList<>();
        List<Double> readable = new ArrayList<>();
        List<Double> both = new ArrayList<>();
        for (int i = 0; i <= rounds; i++) {
            double digests = Tool.shell("ls '" + data + "'/disk.img* | xargs -P " + cores + " -n 1 sha256sum");
            double frames = Tool.shell("for i in $(seq " + cores + "); do cat '" + data + "'/disk.img* | zstd -t -q & done; wait") / cores;
            double ours = granary("verify", "--level", "sound", folder.resolve("bag").toString());
            double decoded = granary("verify", "--level", "readable", folder.resolve("bag").toString());
            if (i > 0) {
                sound.add(ours / digests);
                readable.add(decoded / frames);
                both.add(decoded / (digests + frames));
            }
        }
        report("verify sound, time to one sha256sum a core", sound, 1.0);
        // readable includes sound: without instructions for SHA-256 the digests alone take longer than the frames, and the first of these
        // two cannot be met
        report("verify readable, time to zstd -t, one a core", readable, 1.0 / 0.9);
        report("verify readable, time to sha256sum and zstd -t, one a core each", both, 1.0 / 0.9);
    }

    /** How busy the processors are while nothing else runs: the rest is waiting of the digest, the codec and the disk for each other. */
    private void utilisation(Path disk) throws IOException, InterruptedException {
        Tool.shell("rm -rf '" + folder.resolve("bag") + "'");
        Tool.shell("{ TIMEFORMAT='%U %S %R'; rm -rf '" + folder.resolve("bag") + "'; time '" + granary + "' capture --no-check --name bag '"
            + disk + "' '" + folder + "' > /dev/null; } 2> '" + folder.resolve("times") + "'");
        String[] times = Files.readString(folder.resolve("times")).strip().split("\\s+");
        double idle = 1 - (Double.parseDouble(times[times.length - 3]) + Double.parseDouble(times[times.length - 2]))
            / (Double.parseDouble(times[times.length - 1]) * Runtime.getRuntime().availableProcessors());
        report("share of the processors' time that a capture leaves idle, start of the program included", List.of(idle), 0.25);
        Tool.shell("rm -rf '" + folder.resolve("bag") + "'");
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
        try (OfficeServer server = new OfficeServer(granary, home)) {
            report("all of 500 computers and 1 200 disks, 95th of 100 answers, in units of 50 ms", List.of(InventoryBench.p95(server) / 50),
                1.0);
        }
        Tool.shell("rm -rf '" + home + "'");
    }

    /**
     * Estimates, nights and plans; shares of what should hold are printed as what is missing of it, so that less is better as everywhere
     * here.
     */
    private void plans() throws IOException, InterruptedException {
        report("a night of 60 computers and 12 drives, slowest of 30, in units of 200 ms", List.of(NightBench.slowest() / 200), 1.0);
        EstimateBench.Result sizes = EstimateBench.run();
        report("size estimates of 64 made-up disks, share outside low and high", List.of(1 - sizes.insideShare()), 0.15);
        report("    median error of likely", List.of(sizes.medianError()), 0.03);
        report("    most read of any, in units of 256 MiB", List.of(sizes.mostReadBytes() / (double) (256 << 20)), 1.0);
        Path home = folder.resolve("home");
        Tool.shell("rm -rf '" + home + "'; mkdir -p '" + home + "'");
        PlanBench plan = new PlanBench(granary, home);
        report("time estimates of 24 captures, share outside their range", List.of(1 - plan.timesInside()), 0.2);
        report("one image against 200 destinations, median answer over HTTP, in units of 20 ms", List.of(plan.assessment() / 20), 1.0);
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
            double ours = granary("verify", "--level", "readable", folder.resolve("bag").toString());
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
        System.out.printf(Locale.ROOT, "%-78s %.3f (%.3f to %.3f), at most %.2f: %s%n", what, median, sorted.get(0),
            sorted.get(sorted.size() - 1), goal, met ? "met" : "MISSED");
    }
}
