package app.granary.engine.restore;

import app.granary.engine.media.Tools;
import java.io.IOException;
import java.io.RandomAccessFile;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;

/** A disk that starts: its boot code says a line on the screen and over the serial line, then halts. */
final class TinySystem {
    static final String SAYS = "TINY SYSTEM IS UP";
    /**
     * 16-bit: cli; xor ax,ax; mov ds,ax; mov si,0x7C1D; again: lodsb; or al,al; jz end; mov dx,0x3F8; out dx,al; mov ah,0x0E; mov bx,7; int
     * 0x10; jmp again; end: hlt; jmp end. The text follows.
     */
    private static final int[] CODE = {0xFA, 0x31, 0xC0, 0x8E, 0xD8, 0xBE, 0x1D, 0x7C, 0xAC, 0x08, 0xC0, 0x74, 0x0D, 0xBA, 0xF8, 0x03, 0xEE,
        0xB4, 0x0E, 0xBB, 0x07, 0x00, 0xCD, 0x10, 0xEB, 0xEE, 0xF4,
        0xEB, 0xFD};

    private TinySystem() {
    }

    static Path make(Path folder) throws IOException {
        Path disk = folder.resolve("tiny.img");
        Tools.run(folder,
            "truncate -s 24M tiny.img; printf 'label: dos\\ntype=83,bootable\\n' | sfdisk -q tiny.img; mkfs.ext4 -q -F -E offset=1048576 "
                + "tiny.img 20M");
        try (RandomAccessFile file = new RandomAccessFile(disk.toFile(), "rw")) {
            for (int each : CODE) {
                file.write(each);
            }
            file.write((SAYS + "\0").getBytes(StandardCharsets.US_ASCII));
        }
        return disk;
    }
}
