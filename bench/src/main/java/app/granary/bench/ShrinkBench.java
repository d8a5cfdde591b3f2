package app.granary.bench;

import java.io.IOException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;

/** A restore that makes a file system smaller on the way, beside one of the same bytes onto a disk as large as it was. */
final class ShrinkBench {
    private final Measure measure;

    ShrinkBench(Measure measure) {
        this.measure = measure;
    }

    void run() throws IOException, InterruptedException {
        Path disk = measure.folder.resolve("large.img");
        Path back = measure.folder.resolve("back.img");
        Path bag = measure.folder.resolve("bag");
        for (String kind : List.of("ext4", "ntfs")) {
            made(disk, kind);
            measure.capture(disk);
            List<Double> ratios = new ArrayList<>();
            for (int i = 0; i <= measure.rounds; i++) {
                Tool.shell("rm -f '" + back + "'; sync");
                double plain = measure.granary("restore", bag.toString(), back.toString());
                Tool.shell("rm -f '" + back + "'; sync");
                double shrunk = measure.granary("restore", "--shrink", "--scratch", measure.folder.toString(), "--target-size",
                    "" + (3L << 30), bag.toString(), back.toString());
                if (i > 0) {
                    ratios.add(shrunk / plain);
                }
            }
            measure.report("restore of 6 GiB " + kind + " with 1.5 GiB used onto 3 GiB, to one onto 6 GiB", ratios, 1.6);
        }
        Tool.shell("rm -rf '" + bag + "' '" + back + "' '" + disk + "'");
    }

    /** Half of what is in the files compresses. */
    private void made(Path disk, String kind) throws IOException, InterruptedException {
        Path in = measure.folder.resolve("in");
        Tool.shell("rm -rf '" + disk + "' '" + in + "' && mkdir '" + in + "' && truncate -s 6G '" + disk + "' && cd '" + in
            + "' && for i in $(seq 24); do head -c 32M /dev/urandom > noise$i; seq 4500000 > text$i; done");
        Tool.shell(kind.equals("ext4") ? "mkfs.ext4 -q -F -d '" + in + "' '" + disk + "'"
            : "mkntfs -q -Q -F '" + disk + "' > /dev/null 2>&1; for f in '" + in + "'/*; do ntfscp -q '" + disk
                + "' $f $(basename $f); done");
        Tool.shell("rm -rf '" + in + "'");
    }
}
