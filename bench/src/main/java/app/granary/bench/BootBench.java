package app.granary.bench;

import app.granary.engine.bag.Bag;
import app.granary.engine.host.Imaging;
import app.granary.engine.host.ImageWork;
import app.granary.engine.restore.BootRehearsal;
import app.granary.engine.source.RawSource;
import java.io.IOException;
import java.io.RandomAccessFile;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;

/** The picture of an image that is started from itself, beside one that is restored onto scratch first. */
final class BootBench {
    private static final String SAYS = "THIS DISK STARTS";
    /**
     * 16-bit: cli; xor ax,ax; mov ds,ax; mov si,0x7C1D; again: lodsb; or al,al; jz end; mov dx,0x3F8; out dx,al; mov ah,0x0E; mov bx,7; int
     * 0x10; jmp again; end: hlt; jmp end. The text follows.
     */
    private static final int[] CODE = {0xFA, 0x31, 0xC0, 0x8E, 0xD8, 0xBE, 0x1D, 0x7C, 0xAC, 0x08, 0xC0, 0x74, 0x0D, 0xBA, 0xF8, 0x03, 0xEE,
        0xB4, 0x0E, 0xBB, 0x07, 0x00, 0xCD, 0x10, 0xEB, 0xEE, 0xF4, 0xEB, 0xFD};

    private final Measure measure;

    BootBench(Measure measure) {
        this.measure = measure;
    }

    void run() throws IOException, InterruptedException {
        Path disk = measure.folder.resolve("starts.img");
        Path back = measure.folder.resolve("back.img");
        Tool.shell("cd '" + measure.folder
            + "' && rm -rf in starts.img back.img && mkdir in && for i in $(seq 128); do head -c 32M "
            + "/dev/urandom > in/noise$i; done && truncate -s 6G starts.img && printf 'label: dos\\ntype=83,bootable\\n' | sfdisk -q "
            + "starts.img && mkfs.ext4 -q -F -d in -E offset=1048576 starts.img 6000M && rm -rf in");
        try (RandomAccessFile file = new RandomAccessFile(disk.toFile(), "rw")) {
            for (int each : CODE) {
                file.write(each);
            }
            file.write((SAYS + "\0").getBytes(StandardCharsets.US_ASCII));
        }
        measure.capture(disk);
        Path bag = measure.folder.resolve("bag");
        List<Double> ratios = new ArrayList<>();
        for (int i = 0; i <= measure.rounds; i++) {
            long began = System.nanoTime();
            Imaging.Started itself = ImageWork.start(Bag.open(bag));
            double direct = (System.nanoTime() - began) / 1e9;
            Tool.shell("rm -f '" + back + "'; sync");
            double restored = measure.granary("restore", bag.toString(), back.toString());
            began = System.nanoTime();
            BootRehearsal.Seen scratch;
            try (RawSource file = RawSource.open(back)) {
                scratch = BootRehearsal.run(file, false, Duration.ofSeconds(60));
            }
            restored += (System.nanoTime() - began) / 1e9;
            if (!itself.seen().orElseThrow().serial().contains(SAYS) || !scratch.serial().contains(SAYS)) {
                throw new IOException("it did not start");
            }
            if (i > 0) {
                ratios.add(direct / restored);
            }
        }
        measure.report("picture of an image of 4 GiB started from itself, to one restored onto scratch first", ratios, 0.3);
        Tool.shell("rm -rf '" + bag + "' '" + back + "' '" + disk + "'");
    }
}
