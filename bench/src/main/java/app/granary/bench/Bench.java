package app.granary.bench;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;

/**
 * Prints each figure as a ratio to a general tool on the same work in the same run; the two take turns, and the median of the ratios
 * counts. Arguments: the start script, a folder with about 15 GiB free, how many rounds, and {@code captures}, {@code plans},
 * {@code proof}, {@code chunks}, {@code agents}, {@code crowd}, {@code cuts} or {@code office} to measure only those.
 */
public final class Bench {
    private final Measure measure;

    private Bench(Measure measure) {
        this.measure = measure;
    }

    public static void main(String[] args) throws IOException, InterruptedException {
        Bench bench = new Bench(new Measure(args[0], Files.createDirectories(Path.of(args[1])), Integer.parseInt(args[2])));
        switch (args.length > 3 ? args[3] : "") {
            case "plans" -> bench.plans();
            case "proof" -> bench.proof();
            case "estimates" -> bench.estimates();
            case "chunks" -> bench.chunks();
            case "office" -> bench.office();
            case "agents" -> new AgentBench(bench.measure).run();
            case "crowd" -> new AgentBench(bench.measure).crowd();
            case "cuts" -> new AgentBench(bench.measure).cuts();
            case "inside" -> new InsideBench(bench.measure).run();
            case "nbd" -> new NbdBench(bench.measure).run();
            case "shrinks" -> new ShrinkBench(bench.measure).run();
            case "refresh" -> new RefreshBench(bench.measure).run();
            case "boots" -> new BootBench(bench.measure).run();
            case "restores" -> new RestoreBench(bench.measure).run();
            case "captures" -> new CaptureBench(bench.measure).run();
            default -> bench.run();
        }
        System.out.println(bench.measure.missed() ? "some figures were missed" : "all figures were met");
        System.exit(bench.measure.missed() ? 1 : 0);
    }

    private void estimates() throws IOException {
        EstimateBench.Result sizes = EstimateBench.run();
        measure.report("size estimates of 64 made-up disks, share outside low and high", List.of(1 - sizes.insideShare()), 0.15);
        measure.report("    median error of likely", List.of(sizes.medianError()), 0.03);
        measure.report("    most read of any, in units of 256 MiB", List.of(sizes.mostReadBytes() / (double) (256 << 20)), 1.0);
    }

    private void run() throws IOException, InterruptedException {
        inspectAgainstSha256sum();
        inventory();
        new CaptureBench(measure).run();
        plans();
        proof();
        new RestoreBench(measure).run();
        new ShrinkBench(measure).run();
        new RefreshBench(measure).run();
        new BootBench(measure).run();
        new NbdBench(measure).run();
        new InsideBench(measure).run();
        new AgentBench(measure).run();
        office();
    }

    /** Pages of a big office, and the first load of the front end. */
    private void office() throws IOException, InterruptedException {
        Path home = Files.createDirectories(measure.folder.resolve("office"));
        Tool.shell("rm -rf '" + home + "'/*");
        OfficeBench.Figures figures = new OfficeBench(measure.granary(), home).run();
        measure.report("500 computers, 40 000 images, 300 000 lines: Today, ms of the 95th of 100", List.of(figures.today()), 150);
        measure.report("the same: first page of Images, ms", List.of(figures.images()), 100);
        measure.report("the same: retention over all, ms", List.of(figures.retention()), 500);
        measure.report("the same: journal search, ms", List.of(figures.journal()), 200);
        measure.report("the same: journal search to grep -i over the same lines", List.of(figures.journal() / figures.grep()), 3);
        measure.report("first load in Chromium: script and style, compressed, in units of 350 kB",
            List.of(figures.first().bytes() / 350_000), 1.0);
        measure.report("    largest content, in units of 1.5 s", List.of(figures.first().largestMillis() / 1500), 1.0);
        measure.report("    layout shift", List.of(figures.first().shift()), 0.01);
        Tool.shell("rm -rf '" + home + "'");
    }

    private void chunks() throws IOException, InterruptedException {
        Path disk = measure.folder.resolve("chunks.img");
        Disks.make(disk, 3L << 30, 1330L << 20, 768L << 20);
        ChunkSizeBench.run(disk);
        Files.delete(disk);
    }

    /** What is left after kills and pulled drives, what of harm is found, and how fast proving is. */
    private void proof() throws IOException, InterruptedException {
        Path disk = measure.folder.resolve("proof.img");
        Path small = measure.folder.resolve("small.img");
        Disks.make(disk, 3L << 30, 1330L << 20, 768L << 20);
        Disks.make(small, 24L << 20, 3L << 20, 1L << 20);
        fullAgainstDd();
        provingAgainstTools(disk);
        utilisation(disk);
        ProofBench proof = new ProofBench(measure.granary(), Files.createDirectories(measure.folder.resolve("proof")), disk);
        measure.report("read again at the end of every capture, share of the disk", List.of(proof.readAgainAtTheEnd()), 0.02);
        measure.report("carrying on at 90 %, share of the disk read again", List.of(proof.readAgain()), 0.02);
        measure.report("of 20 killed captures, share that came to no image", List.of(1 - proof.kills(20) / 20.0), 0.0);
        measure.report("of 20 captures whose drive was pulled, share that came to no image", List.of(1 - proof.unplugs(20) / 20.0), 0.0);
        measure.report("of 10 000 turned bits, share not found in their chunk", List.of(1 - proof.flips(small, 10_000) / 10_000.0), 0.0);
        measure.report("of 500 cuts, swaps, renames and extra files, share not found", List.of(1 - proof.harms(small, 500) / 500.0), 0.0);
        Tool.shell("rm -rf '" + measure.folder.resolve("proof") + "' '" + disk + "' '" + small + "'");
    }

    /** A disk full of what does not shrink, every block of it, in a heap of 256 MiB. */
    private void fullAgainstDd() throws IOException, InterruptedException {
        Path full = measure.folder.resolve("full.img");
        Path out = measure.folder.resolve("out");
        Tool.shell("head -c 2147483648 /dev/urandom > '" + full + "'");
        List<Double> ratios = new ArrayList<>();
        for (int i = 0; i <= measure.rounds; i++) {
            double general = Tool.shell("dd if='" + full + "' bs=1M status=none | tee '" + out + "' | sha256sum");
            Tool.shell("rm -rf '" + measure.folder.resolve("bag") + "'");
            double ours = measure.granaryWith("-Xmx256m", "capture", "--json", "--all-blocks", "--no-check", "--codec", "none", "--name",
                "bag",
                full.toString(), measure.folder.toString());
            if (i > 0) {
                ratios.add(ours / general);
            }
        }
        measure.report("capture of 2 GiB that does not shrink, heap of 256 MiB, time to dd | tee | sha256sum", ratios, 1.1);
        Tool.shell("rm -rf '" + measure.folder.resolve("bag") + "' '" + full + "' '" + out + "'");
    }

    private void provingAgainstTools(Path disk) throws IOException, InterruptedException {
        Tool.shell("rm -rf '" + measure.folder.resolve("bag") + "'");
        measure.granary("capture", "--json", "--level", "3", "--split", "200000000", "--name", "bag", disk.toString(),
            measure.folder.toString());
        String data = measure.folder.resolve("bag/data").toString();
        int cores = Runtime.getRuntime().availableProcessors();
        List<Double> sound = new ArrayList<>();
        List<Double> readable = new ArrayList<>();
        List<Double> both = new ArrayList<>();
        for (int i = 0; i <= measure.rounds; i++) {
            double digests = Tool.shell("ls '" + data + "'/disk.img* | xargs -P " + cores + " -n 1 sha256sum");
            double frames = Tool.shell("for i in $(seq " + cores + "); do cat '" + data + "'/disk.img* | zstd -t -q & done; wait") / cores;
            double ours = measure.granary("verify", "--level", "sound", measure.folder.resolve("bag").toString());
            double decoded = measure.granary("verify", "--level", "readable", measure.folder.resolve("bag").toString());
            if (i > 0) {
                sound.add(ours / digests);
                readable.add(decoded / frames);
                both.add(decoded / (digests + frames));
            }
        }
        measure.report("verify sound, time to one sha256sum a core", sound, 1.0);
        // readable includes sound: without instructions for SHA-256 the digests alone take longer than the frames, and the first of these
        // two cannot be met
        measure.report("verify readable, time to zstd -t, one a core", readable, 1.0 / 0.9);
        measure.report("verify readable, time to sha256sum and zstd -t, one a core each", both, 1.0 / 0.9);
    }

    /** How busy the processors are while nothing else runs: the rest is waiting of the digest, the codec and the disk for each other. */
    private void utilisation(Path disk) throws IOException, InterruptedException {
        Tool.shell("rm -rf '" + measure.folder.resolve("bag") + "'");
        Tool.shell("{ TIMEFORMAT='%U %S %R'; rm -rf '" + measure.folder.resolve("bag") + "'; time '" + measure.granary()
            + "' capture --no-check --name bag '"
            + disk + "' '" + measure.folder + "' > /dev/null; } 2> '" + measure.folder.resolve("times") + "'");
        String[] times = Files.readString(measure.folder.resolve("times")).strip().split("\\s+");
        double idle = 1 - (Double.parseDouble(times[times.length - 3]) + Double.parseDouble(times[times.length - 2]))
            / (Double.parseDouble(times[times.length - 1]) * Runtime.getRuntime().availableProcessors());
        measure.report("share of the processors' time that a capture leaves idle, start of the program included", List.of(idle), 0.25);
        Tool.shell("rm -rf '" + measure.folder.resolve("bag") + "'");
    }

    /** A figure of its own heap: the script passes the options on to Java. */
    private void inspectAgainstSha256sum() throws IOException, InterruptedException {
        Path disk = measure.folder.resolve("ntfs.img");
        Path plain = measure.folder.resolve("plain");
        NtfsDisk.make(disk);
        Tool.shell("head -c 536870912 /dev/urandom > '" + plain + "'");
        List<Double> ratios = new ArrayList<>();
        for (int i = 0; i <= measure.rounds; i++) {
            double general = Tool.shell("sha256sum '" + plain + "'");
            double ours = measure.granaryWith("-Xmx64m", "inspect", "--json", disk.toString());
            if (i > 0) {
                ratios.add(ours / general);
            }
        }
        measure.report("inspect of 2 TB of NTFS, half full, heap of 64 MiB, time to sha256sum of 512 MiB", ratios, 0.5);
        System.out.printf("    %d GB used of %d GB%n", measure.number("usedBytes") / 1_000_000_000,
            measure.number("sizeBytes") / 1_000_000_000);
        Files.delete(disk);
        Files.delete(plain);
    }

    private void inventory() throws IOException, InterruptedException {
        Path home = measure.folder.resolve("home");
        Tool.shell("rm -rf '" + home + "'; mkdir -p '" + home + "'");
        try (OfficeServer server = new OfficeServer(measure.granary(), home)) {
            measure.report("all of 500 computers and 1 200 disks, 95th of 100 answers, in units of 50 ms",
                List.of(InventoryBench.p95(server) / 50),
                1.0);
        }
        Tool.shell("rm -rf '" + home + "'");
    }

    /**
     * Estimates, nights and plans; shares of what should hold are printed as what is missing of it, so that less is better as everywhere
     * here.
     */
    private void plans() throws IOException, InterruptedException {
        measure.report("a night of 60 computers and 12 drives, slowest of 30, in units of 200 ms", List.of(NightBench.slowest() / 200),
            1.0);
        estimates();
        Path home = measure.folder.resolve("home");
        Tool.shell("rm -rf '" + home + "'; mkdir -p '" + home + "'");
        PlanBench plan = new PlanBench(measure.granary(), home);
        measure.report("time estimates of 24 captures, share outside their range", List.of(1 - plan.timesInside()), 0.2);
        measure.report("one image against 200 destinations, median answer over HTTP, in units of 20 ms", List.of(plan.assessment() / 20),
            1.0);
        Tool.shell("rm -rf '" + home + "'");
    }

}
