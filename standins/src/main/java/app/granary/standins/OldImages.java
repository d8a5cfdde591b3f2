package app.granary.standins;

import app.granary.core.disk.Partition;
import app.granary.core.disk.PartitionTable;
import app.granary.core.disk.PartitionTables;
import app.granary.core.disk.SfdiskDump;
import app.granary.engine.bag.Digests;
import app.granary.engine.source.RawSource;
import com.github.luben.zstd.ZstdOutputStream;
import java.io.File;
import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.nio.ByteBuffer;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.nio.file.attribute.FileTime;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.zip.Deflater;
import java.util.zip.GZIPOutputStream;

/**
 * Images from before the office had Granary, as people made them with what the system has: LEDGER's packed with gzip, in parts with a list
 * of their digests; PLUMB's packed with zstd, with nothing beside it; CONTOUR's as a table and its partitions in files of their own, but
 * for the last. They lie on CAIRN, laid there once.
 */
final class OldImages {
    private static final String DRIVE = "cairn";
    private static final int PART = 3 << 20;

    private OldImages() {
    }

    /** @param now they are a quarter and a half of a year old by it */
    static void lay(Path disks, Path drives, String scaleSuffix, Instant now) throws IOException {
        for (StandInDisk disk : MarrowbySurveyOffice.DISKS) {
            Path folder = drives.resolve(DRIVE).resolve("old-" + disk.id());
            boolean parts = disk.id().equals("ledger");
            boolean set = disk.id().equals("contour-1");
            if ((parts || set || disk.id().equals("plumb")) && !Files.exists(folder)) {
                Path partial = Files.createDirectories(folder.resolveSibling("." + folder.getFileName()));
                try (InputStream raw = Files.newInputStream(Templates.disk(disk, disks))) {
                    if (set) {
                        pieces(Templates.disk(disk, disks), partial);
                    } else if (parts) {
                        split(raw, partial, disk.id() + "-before-update.img.gz.");
                    } else {
                        try (OutputStream out = new ZstdOutputStream(Files.newOutputStream(partial.resolve(disk.id() + "-spring.img.zst")),
                            1)) {
                            raw.transferTo(out);
                        }
                    }
                }
                for (File file : partial.toFile().listFiles()) {
                    Files.setLastModifiedTime(file.toPath(), FileTime.from(now.minus(Duration.ofDays(parts ? 96 : 183))));
                }
                Files.writeString(folder.resolveSibling(folder.getFileName() + scaleSuffix), disk.scale() + "\n");
                Files.move(partial, folder, StandardCopyOption.ATOMIC_MOVE);
            }
        }
    }

    /** As sfdisk, dd and zstd make them; nobody kept the last partition. */
    private static void pieces(Path disk, Path folder) throws IOException {
        try (RawSource source = RawSource.open(disk)) {
            PartitionTable table = PartitionTables.read(source);
            Files.writeString(folder.resolve("sda.sfdisk"), SfdiskDump.write(table, source.sectorBytes()));
            List<Partition> all = table.partitions();
            for (Partition each : all.subList(0, all.size() - 1)) {
                try (OutputStream out = new ZstdOutputStream(Files.newOutputStream(folder.resolve("sda" + each.number() + ".zst")), 1)) {
                    ByteBuffer piece = ByteBuffer.allocate(PART);
                    for (long at = each.startBytes(); at < each.endBytes(); at += piece.limit()) {
                        source.read(at, piece.clear().limit((int) Math.min(PART, each.endBytes() - at)));
                        out.write(piece.array(), 0, piece.limit());
                    }
                }
            }
        }
    }

    private static void split(InputStream raw, Path folder, String name) throws IOException {
        Path whole = folder.resolve("whole");
        try (OutputStream out = new GZIPOutputStream(Files.newOutputStream(whole), 1 << 16) {
            {
                def.setLevel(Deflater.BEST_SPEED);
            }
        }) {
            raw.transferTo(out);
        }
        StringBuilder list = new StringBuilder();
        try (InputStream in = Files.newInputStream(whole)) {
            byte[] part = in.readNBytes(PART);
            for (int number = 0; part.length > 0; number++) {
                String file = name + (char) ('a' + number / 26) + (char) ('a' + number % 26);
                Files.write(folder.resolve(file), part);
                list.append(Digests.of(part)).append("  ").append(file).append('\n');
                part = in.readNBytes(PART);
            }
        }
        Files.delete(whole);
        Files.writeString(folder.resolve("SHA256SUMS"), list);
    }
}
