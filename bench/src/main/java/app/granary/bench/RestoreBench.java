package app.granary.bench;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;

/** Writing an image back into a file, and laying images onto targets. */
final class RestoreBench {
    private final Measure measure;

    RestoreBench(Measure measure) {
        this.measure = measure;
    }

    void run() throws IOException, InterruptedException {
        Path disk = measure.folder.resolve("restored-from.img");
        Path back = measure.folder.resolve("back.img");
        Path plain = measure.folder.resolve("plain.img");
        Disks.make(disk, 3L << 30, 1330L << 20, 768L << 20);
        measure.capture(disk);
        Path stream = measure.folder.resolve("bag/data/disk.img.zst.000");
        List<Double> written = new ArrayList<>();
        List<Double> compared = new ArrayList<>();
        List<Double> durable = new ArrayList<>();
        for (int i = 0; i <= measure.rounds; i++) {
            Tool.shell("rm -f '" + plain + "' '" + back + "'; sync");
            double general = Tool.shell("zstd -dc -T2 < '" + stream + "' > '" + plain + "'");
            Tool.shell("rm -f '" + plain + "'; sync");
            double forced = Tool.shell("zstd -dc -T2 < '" + stream + "' > '" + plain + "' && sync '" + plain + "'");
            Tool.shell("rm -f '" + plain + "'; sync");
            double ours = measure.granary("restore", "--no-compare", measure.folder.resolve("bag").toString(), back.toString());
            Tool.shell("rm -f '" + back + "'; sync");
            double both = measure.granary("restore", measure.folder.resolve("bag").toString(), back.toString());
            if (i > 0) {
                written.add(ours / general);
                durable.add(ours / forced);
                compared.add(both / general);
            }
        }
        measure.report("restore of 3 GiB, half full, to a file, time to zstd -dc -T2 > file", written, 0.7);
        // zstd leaves the file in memory, where a fall of power loses it; a restore does not end before it is on the device
        measure.report("    the same to zstd -dc -T2 > file && sync file", durable, 0.9);
        measure.report("the same, read back and compared", compared, 1.2);
        Tool.shell("rm -rf '" + measure.folder.resolve("bag") + "' '" + back + "' '" + plain + "'");
        restoreOfEncrypted(disk, back, plain);
        LayoutBench.Figures layouts = LayoutBench.run();
        measure.report("10 000 random layouts, in units of 2 s", List.of(layouts.seconds() / 2), 1.0);
        measure.report("    of those that fit, share that breaks an invariant", List.of((double) layouts.broken() / layouts.fitted()), 0.0);
        System.out.printf("    %d of 10 000 fitted%n", layouts.fitted());
    }

    /** The same image encrypted, beside what opens an OpenPGP message on any machine. */
    private void restoreOfEncrypted(Path disk, Path back, Path plain) throws IOException, InterruptedException {
        Path secret = measure.folder.resolve("secret");
        Files.writeString(secret, "chain and offset\n");
        measure.granary("capture", "--json", "--level", "3", "--passphrase-file", secret.toString(), "--name", "bag", disk.toString(),
            measure.folder.toString());
        List<Double> ratios = new ArrayList<>();
        for (int i = 0; i <= measure.rounds; i++) {
            double general = Tool.shell("gpg --batch --quiet --pinentry-mode loopback --passphrase-file '" + secret + "' -d '"
                + measure.folder.resolve("bag/data") + "'/disk.img*.gpg | zstd -dc > '" + plain + "'");
            double ours = measure.granary("restore", "--passphrase-file", secret.toString(), measure.folder.resolve("bag").toString(),
                back.toString());
            Tool.shell("rm -f '" + plain + "' '" + back + "'; sync");
            if (i > 0) {
                ratios.add(ours / general);
            }
        }
        // gpg has instructions for SHA-1 and AES-CFB that Java has not, and reads once; a restore reads the file systems' tables first, and
        // the target afterwards
        measure.report("restore of the same, encrypted, read back and compared, to gpg -d | zstd -dc > file", ratios, 5.0);
        Tool.shell("rm -rf '" + measure.folder.resolve("bag") + "' '" + disk + "' '" + secret + "'");
    }
}
