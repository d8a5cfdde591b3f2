package app.granary.standins;

import app.granary.engine.bag.Digests;
import com.github.luben.zstd.ZstdOutputStream;
import java.io.File;
import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.nio.file.attribute.FileTime;
import java.time.Duration;
import java.time.Instant;
import java.util.zip.Deflater;
import java.util.zip.GZIPOutputStream;

/**
 * Images from before the office had Granary, as people made them with what the system has: LEDGER's packed with gzip, in parts with a list
 * of their digests; PLUMB's packed with zstd, with nothing beside it. They lie on CAIRN, laid there once.
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
            if ((parts || disk.id().equals("plumb")) && !Files.exists(folder)) {
                Path partial = Files.createDirectories(folder.resolveSibling("." + folder.getFileName()));
                try (InputStream raw = Files.newInputStream(Templates.disk(disk, disks))) {
                    if (parts) {
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
