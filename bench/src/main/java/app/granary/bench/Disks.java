package app.granary.bench;

import java.io.IOException;
import java.io.PrintWriter;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Random;
import java.util.stream.Stream;

/** Makes the disks the benchmarks run on, from real files of this machine, with the system's own tools. */
final class Disks {
    private static final long MIB = 1L << 20;

    private Disks() {
    }

    /**
     * One ext4 partition from 1 MiB on.
     *
     * @param sizeBytes whole disk
     * @param keepBytes of real files that stay
     * @param goneBytes of real files that are deleted again, their content left in the free blocks
     */
    static void make(Path disk, long sizeBytes, long keepBytes, long goneBytes) throws IOException, InterruptedException {
        Path root = disk.resolveSibling(disk.getFileName() + ".root");
        Path script = disk.resolveSibling(disk.getFileName() + ".rm");
        Tool.shell("rm -rf '" + root + "'");
        Files.createDirectories(root.resolve("gone"));
        List<Path> files = realFiles();
        long kept = 0;
        long gone = 0;
        try (PrintWriter deletions = new PrintWriter(script.toFile())) {
            for (int i = 0; i < files.size() && (kept < keepBytes - MIB || gone < goneBytes - MIB); i++) {
                long bytes = Files.size(files.get(i));
                boolean delete = i % 3 == 0 && gone + bytes <= goneBytes;
                if (!delete && kept + bytes > keepBytes) {
                    continue;
                }
                Path folder = delete ? root.resolve("gone") : root.resolve("d" + i / 500);
                Files.createDirectories(folder);
                Files.copy(files.get(i), folder.resolve("" + i));
                if (delete) {
                    deletions.println("rm /gone/" + i);
                    gone += bytes;
                } else {
                    kept += bytes;
                }
            }
        }
        Tool.shell("rm -f '" + disk + "'; truncate -s " + sizeBytes + " '" + disk + "'"
            + " && printf 'label: gpt\\nstart=2048, type=linux, name=\"system\"\\n' | sfdisk -q '" + disk + "'"
            + " && mkfs.ext4 -q -F -b 4096 -E offset=" + MIB + " -d '" + root + "' '" + disk + "' " + (sizeBytes - 2 * MIB) / 4096
            + " && debugfs -w -f '" + script + "' '" + disk + "?offset=" + MIB + "' > /dev/null 2>&1; rm -rf '" + root + "' '" + script
            + "'");
        System.out.printf("%s: %d MiB, %d MiB of real files, %d MiB deleted%n", disk.getFileName(), sizeBytes / MIB, kept / MIB,
            gone / MIB);
    }

    /** A copy of a disk made by {@link #make} with zeros in all free blocks, as {@code dumpe2fs} lists them. */
    static void zeroFree(Path disk, Path copy) throws IOException, InterruptedException {
        Tool.shell("cp --sparse=always '" + disk + "' '" + copy + "'");
        Path ranges = copy.resolveSibling("ranges");
        Tool.shell("dumpe2fs '" + disk + "?offset=" + MIB + "' 2>/dev/null | sed -n 's/^  Free blocks: //p' | tr -d ' ' | tr ',' '\\n' > '"
            + ranges + "'");
        try (java.nio.channels.FileChannel channel = java.nio.channels.FileChannel.open(copy, java.nio.file.StandardOpenOption.WRITE)) {
            for (String range : Files.readAllLines(ranges)) {
                if (!range.isBlank()) {
                    String[] ends = range.split("-");
                    long last = Long.parseLong(ends[ends.length - 1]);
                    for (long block = Long.parseLong(ends[0]); block <= last; block++) {
                        channel.write(java.nio.ByteBuffer.allocate(4096), MIB + block * 4096);
                    }
                }
            }
        }
        Files.delete(ranges);
    }

    /** Regular files under /usr in an order mixed by a fixed seed, so that programs, documents and archives all take part. */
    private static List<Path> realFiles() throws IOException {
        List<Path> files = new ArrayList<>();
        for (String top : List.of("/usr/bin", "/usr/lib", "/usr/share")) {
            try (Stream<Path> walk = Files.walk(Path.of(top))) {
                walk.filter(Files::isRegularFile).filter(f -> !Files.isSymbolicLink(f))
                    .filter(f -> f.toFile().length() > 3000 && f.toFile().length() < 30 * MIB)
                    .filter(Files::isReadable).forEach(files::add);
            }
        }
        Collections.sort(files);
        Collections.shuffle(files, new Random(1));
        return files;
    }
}
