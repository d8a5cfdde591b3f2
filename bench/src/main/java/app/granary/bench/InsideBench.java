package app.granary.bench;

import app.granary.engine.files.FilePlace;
import app.granary.engine.files.FolderPage;
import app.granary.engine.host.ImageAt;
import app.granary.engine.host.ImageInsides;
import app.granary.engine.host.Insides;
import java.io.IOException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;

/** Looking into the image of a disk of 1 TB: its first folder, a file of 10 MB, and a folder of 200 000 names. */
final class InsideBench {
    private static final ImageAt IMAGE = ImageAt.of("bench", "bag");
    private static final FilePlace TOP = new FilePlace(0, List.of());
    private static final FilePlace MANY = new FilePlace(0, List.of("many"));
    private static final FilePlace FILE = new FilePlace(0, List.of("ten"));
    private static final int NAMES = 200_000;

    private final Measure measure;

    InsideBench(Measure measure) {
        this.measure = measure;
    }

    void run() throws IOException, InterruptedException {
        Path disk = measure.folder.resolve("tera.img");
        Path at = measure.folder.resolve("at");
        if (Tool.status("rm -rf '" + disk + "' && mkdir -p '" + at + "' && truncate -s 1000G '" + disk
            + "' && mkfs.ext4 -q -F -E lazy_itable_init=1,nodiscard '" + disk + "' && mount -o loop '" + disk + "' '" + at + "'") != 0) {
            System.out.println("looking into an image: not measured, since a file system for it is mounted by root alone");
            return;
        }
        Tool.shell("cd '" + at + "' && mkdir many && head -c 10000000 /dev/urandom > ten && head -c 400000000 /dev/urandom > rest && "
            + "seq -f 'many/name-%g' " + NAMES + " | xargs touch; cd /; umount '" + at + "'");
        measure.capture(disk);
        List<Double> folder = new ArrayList<>();
        List<Double> file = new ArrayList<>();
        List<Double> many = new ArrayList<>();
        List<Double> again = new ArrayList<>();
        for (int i = 0; i <= measure.rounds; i++) {
            Tool.shell("sync; echo 1 > /proc/sys/vm/drop_caches 2> /dev/null || true");
            Insides insides = new ImageInsides(image -> measure.folder.resolve(image.name()), image -> {
                throw new IllegalStateException("Granary's own alone");
            });
            double first = seconds(() -> insides.list(IMAGE, TOP, FolderPage.Asked.ALL));
            double ten = seconds(() -> fetched(insides));
            double names = seconds(() -> page(insides, 0));
            double next = seconds(() -> page(insides, 100_000));
            if (i > 0) {
                folder.add(first);
                file.add(ten);
                many.add(names / 0.3);
                again.add(next / 0.3);
            }
        }
        measure.report("first folder in an image of a disk of 1 TB, nothing of it read before, s", folder, 1);
        measure.report("    a file of 10 MB out of it, s", file, 1);
        measure.report("    first page of a folder of 200 000 names, in units of 300 ms", many, 1);
        measure.report("    a later page of it, in units of 300 ms", again, 1);
        Tool.shell("rm -rf '" + at + "' '" + disk + "' '" + measure.folder.resolve("bag") + "'");
    }

    private interface Step {
        Object done() throws IOException;
    }

    private static double seconds(Step step) throws IOException {
        long began = System.nanoTime();
        step.done();
        return (System.nanoTime() - began) / 1e9;
    }

    private static Object page(Insides insides, int from) throws IOException {
        FolderPage page = insides.list(IMAGE, MANY, new FolderPage.Asked("", FolderPage.Sort.NAME, false, from, 200, false));
        if (page.total() != NAMES || page.lines().size() != 200) {
            throw new IOException(page.total() + " names");
        }
        return page;
    }

    private static Object fetched(Insides insides) throws IOException {
        long done = 0;
        for (byte[] piece = insides.bytes(IMAGE, FILE, 0, Insides.MOST_BYTES); piece.length > 0; piece = insides.bytes(IMAGE, FILE, done,
            Insides.MOST_BYTES)) {
            done += piece.length;
        }
        if (done != 10_000_000) {
            throw new IOException(done + " bytes");
        }
        return done;
    }
}
