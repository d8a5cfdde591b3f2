package app.granary.engine.copy;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertThrows;
import static org.junit.jupiter.api.Assertions.assertTrue;

import app.granary.core.disk.SourceOver;
import app.granary.core.fault.FaultException;
import app.granary.engine.media.Tools;
import app.granary.engine.progress.Progress;
import app.granary.engine.progress.Watch;
import app.granary.engine.source.RawSource;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.file.Files;
import java.nio.file.Path;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** A stick in a file: what cmp, sha256sum and du say of it. */
class StickImageTest {
    @TempDir
    Path folder;

    @Test
    void everySectorIsKeptAndZerosTakeNoRoom() throws IOException {
        Tools.run(folder, "truncate -s 40M stick; head -c 3000000 /dev/urandom | dd of=stick conv=notrunc status=none; "
            + "head -c 700 /dev/urandom | dd of=stick bs=1 seek=30000001 conv=notrunc status=none; truncate -s 41234944 stick; mkdir kept");
        try (RawSource stick = RawSource.open(folder.resolve("stick"))) {
            StickImage kept = StickImage.keep(stick, folder.resolve("kept"), "KEY-A.img", Watch.NONE);
            assertEquals(Tools.run(folder, "sha256sum < stick").substring(0, 64), kept.sha256());
        }
        Tools.run(folder, "cmp stick kept/KEY-A.img");
        assertTrue(Integer.parseInt(Tools.run(folder, "du -k kept/KEY-A.img | cut -f1").strip()) < 6000, "sparse");
        assertEquals("KEY-A.img", Tools.run(folder, "ls kept").strip(), "nothing else is left");
    }

    /** It ended in the middle, or one sector could not be read: what was kept before is still there, whole, and nothing else. */
    @Test
    void whatIsNotWholeIsNotKept() throws IOException {
        Tools.run(folder, "head -c 8000512 /dev/urandom > stick; mkdir kept; echo before > kept/KEY-A.img");
        try (RawSource stick = RawSource.open(folder.resolve("stick"))) {
            Watch stopping = new Watch() {
                private long done;

                @Override
                public void advanced(Progress progress) {
                    done = progress.doneBytes();
                }

                @Override
                public boolean stopRequested() {
                    return done > 3_000_000;
                }
            };
            assertThrows(FaultException.class, () -> StickImage.keep(stick, folder.resolve("kept"), "KEY-A.img", stopping));
            StickImage worn = StickImage.keep(new Worn(stick, 4_000_256), folder.resolve("kept"), "KEY-A.img", Watch.NONE);
            assertEquals("[BadStretch[startBytes=4000256, sizeBytes=512]]", worn.bad().toString());
        }
        assertEquals("KEY-A.img\nbefore\n", Tools.run(folder, "ls kept; cat kept/KEY-A.img"));
    }

    /** A stick of which one sector cannot be read. */
    private static final class Worn extends SourceOver {
        private final long bad;

        Worn(RawSource stick, long bad) {
            super(stick);
            this.bad = bad;
        }

        @Override
        public void read(long offsetBytes, ByteBuffer into) throws IOException {
            if (offsetBytes <= bad && bad < offsetBytes + into.remaining()) {
                throw new IOException("Input/output error");
            }
            source.read(offsetBytes, into);
        }
    }
}
