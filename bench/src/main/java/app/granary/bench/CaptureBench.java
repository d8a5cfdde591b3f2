package app.granary.bench;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;

/** Captures, checks and estimates of one disk. */
final class CaptureBench {
    private final Measure measure;

    CaptureBench(Measure measure) {
        this.measure = measure;
    }

    void run() throws IOException, InterruptedException {
        Path found = measure.folder.resolve("found.img");
        Path zeroed = measure.folder.resolve("zeroed.img");
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

    private void captureAgainstZstd(String what, Path disk, double timeGoal, double sizeGoal) throws IOException, InterruptedException {
        Path out = measure.folder.resolve("out.zst");
        List<Double> ratios = new ArrayList<>();
        long stored = 0;
        for (int i = 0; i <= measure.rounds; i++) {
            double general = Tool.shell("zstd -3 -T2 -c '" + disk + "' | tee '" + out + "' | sha256sum");
            double ours = measure.capture(disk);
            stored = measure.number("storedBytes");
            if (i > 0) { // the first round warms the caches
                ratios.add(ours / general);
            }
        }
        measure.report("capture, checked, " + what + ", time to zstd | tee | sha256sum", ratios, timeGoal);
        measure.report("    stored size to zstd", List.of((double) stored / Files.size(out)), sizeGoal);
        Files.delete(out);
    }

    private void verifyAgainstZstd(Path disk) throws IOException, InterruptedException {
        measure.capture(disk);
        Path stream = measure.folder.resolve("bag/data/disk.img.zst.000");
        List<Double> ratios = new ArrayList<>();
        for (int i = 0; i <= measure.rounds; i++) {
            double general = Tool.shell("zstd -dc < '" + stream + "' | sha256sum");
            double ours = measure.granary("verify", "--level", "readable", measure.folder.resolve("bag").toString());
            if (i > 0) {
                ratios.add(ours / general);
            }
        }
        measure.report("verify digests and frames, time to zstd -dc | sha256sum", ratios, 0.5);
    }

    private void estimateAgainstCapture(Path disk) throws IOException, InterruptedException {
        List<Double> ratios = new ArrayList<>();
        int inside = 0;
        for (int i = 0; i <= measure.rounds; i++) {
            double whole = measure.capture(disk);
            long stored = measure.number("storedBytes");
            double estimate = measure.granary("estimate", "--json", "--seed", "" + i, disk.toString());
            inside += measure.number("lowBytes") <= stored && stored <= measure.number("highBytes") ? 1 : 0;
            if (i > 0) {
                ratios.add(estimate / whole);
            }
        }
        measure.report("estimate, time to capture", ratios, 0.1);
        System.out.printf("    the actual size lay within low and high in %d of %d draws%n", inside, measure.rounds + 1);
        measure.missedIf(inside < (measure.rounds + 1) * 0.6);
    }

    private void largeAgainstSmall() throws IOException, InterruptedException {
        Path large = measure.folder.resolve("large.img");
        Path small = measure.folder.resolve("small.img");
        Disks.make(small, 4L << 30, 1900L << 20, 0);
        Disks.make(large, 1_000_204_886_016L, 1900L << 20, 0);
        List<Double> ratios = new ArrayList<>();
        for (int i = 0; i <= measure.rounds; i++) {
            double ofSmall = measure.capture(small);
            double ofLarge = measure.capture(large);
            if (i > 0) {
                ratios.add(ofLarge / ofSmall);
            }
        }
        measure.report("capture of 1 TB with 2 GB used, time to 4 GB with the same", ratios, 1.5);
        Files.delete(large);
        Files.delete(small);
        Tool.shell("rm -rf '" + measure.folder.resolve("bag") + "'");
    }
}
