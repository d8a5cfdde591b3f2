package app.granary.standins;

import app.granary.core.disk.Partition;
import app.granary.core.disk.PartitionTable;
import app.granary.core.disk.PartitionType;
import app.granary.core.disk.TableSectors;
import app.granary.core.disk.TableWriter;
import app.granary.core.rescue.BootImage;
import app.granary.engine.host.Overwriting;
import app.granary.engine.source.RawSource;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.util.ArrayList;
import java.util.List;
import java.util.stream.Stream;

/**
 * Two made-up rescue systems as files: each an ISO 9660 volume (ECMA-119, section 8.4) that is a disk with an MBR as well, and whose boot
 * code really starts and says what it is. They are small, and true to size.
 */
final class RescueFiles {
    private static final int BYTES = 6 << 20;
    private static final int BLOCK = 2048;
    private static final int DESCRIPTOR = 32_768;
    /**
     * 16-bit: cli; xor ax,ax; mov ds,ax; mov si,0x7C1D; again: lodsb; or al,al; jz end; mov dx,0x3F8; out dx,al; mov ah,0x0E; mov bx,7; int
     * 0x10; jmp again; end: hlt; jmp end.
     */
    private static final int[] CODE = {0xFA, 0x31, 0xC0, 0x8E, 0xD8, 0xBE, 0x1D, 0x7C, 0xAC, 0x08, 0xC0, 0x74, 0x0D, 0xBA, 0xF8, 0x03, 0xEE,
        0xB4, 0x0E, 0xBB, 0x07, 0x00, 0xCD, 0x10, 0xEB, 0xEE, 0xF4,
        0xEB, 0xFD};

    private RescueFiles() {
    }

    /** @param stick the serial of the stick that one of them was saved onto, as people do */
    static List<Overwriting.RawFile> in(Path folder, String stick) throws IOException {
        List<Overwriting.RawFile> out = new ArrayList<>();
        try (Stream<Path> files = Files.list(folder)) {
            for (Path file : files.filter(each -> !each.toString().endsWith(".partial")).sorted().toList()) {
                try (RawSource source = RawSource.open(file)) {
                    BootImage read = BootImage.read(source);
                    String name = file.getFileName().toString();
                    boolean onStick = name.contains("-13.");
                    boolean kept = name.endsWith(".img");
                    out.add(new Overwriting.RawFile(name, name, Files.size(file), onStick ? "on the stick KEY-C" : kept
                        ? "beside Granary's own data" : "in CAIRN's downloads",
                        kept ? List.of() : List.of(onStick ? stick : "CAIRN"),
                        new BootImage(read.kind(), read.label(), read.bytes(), read.starts(),
                            read.refusal().replace(file.toString(), name))));
                }
            }
        }
        return out;
    }

    /** Lays them into a folder, once. */
    static Path lay(Path folder) throws IOException {
        Files.createDirectories(folder);
        iso(folder.resolve("larch-rescue-12.iso"), "LARCH_RESCUE_12", "Larch rescue 12 is up");
        iso(folder.resolve("larch-rescue-13.iso"), "LARCH_RESCUE_13", "Larch rescue 13 is up");
        Path cut = folder.resolve("larch-rescue-14.iso");
        if (!Files.exists(cut)) {
            byte[] whole = content("LARCH_RESCUE_14", "Larch rescue 14 is up");
            put(cut, java.util.Arrays.copyOf(whole, BYTES / 2)); // a download that broke off
        }
        return folder;
    }

    private static void iso(Path file, String label, String says) throws IOException {
        if (!Files.exists(file)) {
            put(file, content(label, says));
        }
    }

    private static void put(Path file, byte[] content) throws IOException {
        Path partial = file.resolveSibling(file.getFileName() + ".partial");
        Files.write(partial, content);
        Files.move(partial, file, StandardCopyOption.ATOMIC_MOVE);
    }

    private static byte[] content(String label, String says) throws IOException {
        ByteBuffer out = ByteBuffer.allocate(BYTES).order(ByteOrder.LITTLE_ENDIAN);
        byte[] first = new byte[512];
        for (int i = 0; i < CODE.length; i++) {
            first[i] = (byte) CODE[i];
        }
        System.arraycopy((says + "\0").getBytes(StandardCharsets.US_ASCII), 0, first, CODE.length, says.length() + 1);
        List<Partition> partitions = List.of(new Partition(1, 2L << 20, 1L << 20, PartitionType.of("EF"), "", "", 0x80, false));
        for (TableSectors each : TableWriter.write(new PartitionTable.Mbr(0x4C415243L, partitions), BYTES, 512, first)) {
            out.put((int) each.offsetBytes(), each.content());
        }
        byte[] name = String.format("%-32s", label).getBytes(StandardCharsets.US_ASCII);
        out.put(DESCRIPTOR, (byte) 1).put(DESCRIPTOR + 1, "CD001".getBytes(StandardCharsets.US_ASCII)).put(DESCRIPTOR + 6, (byte) 1)
            .put(DESCRIPTOR + 40, name);
        out.putInt(DESCRIPTOR + 80, BYTES / BLOCK).putInt(DESCRIPTOR + 84, Integer.reverseBytes(BYTES / BLOCK))
            .putShort(DESCRIPTOR + 128, (short) BLOCK).putShort(DESCRIPTOR + 130, Short.reverseBytes((short) BLOCK));
        out.put(DESCRIPTOR + BLOCK, (byte) 255).put(DESCRIPTOR + BLOCK + 1, "CD001".getBytes(StandardCharsets.US_ASCII))
            .put(DESCRIPTOR + BLOCK + 6, (byte) 1);
        return out.array();
    }
}
