package app.granary.engine.restore;

import app.granary.core.disk.BlockSource;
import app.granary.engine.source.BlockTarget;
import app.granary.engine.source.DeviceTarget;
import app.granary.engine.source.FileTarget;
import app.granary.engine.source.RawSource;
import java.io.IOException;
import java.nio.file.Path;
import java.util.Optional;

/** Something that is written, and read back afterwards. */
public interface RestoreTarget {
    /** Called once, when the first byte is about to be written. */
    BlockTarget open() throws IOException;

    /** Opened after the writing ended, past what the system holds in memory where that can be. */
    BlockSource readBack() throws IOException;

    /** Where it lies, for tools of the system; empty where there is no such place. */
    default Optional<Path> place() {
        return Optional.empty();
    }

    /** A new file of a given length. */
    static RestoreTarget file(Path path, long bytes, int sectorBytes) {
        return over(() -> FileTarget.create(path, bytes), path, sectorBytes);
    }

    /** A device, or a raw file that is there and keeps its length. */
    static RestoreTarget device(Path path, long neededBytes, int sectorBytes) {
        return over(() -> DeviceTarget.open(path, neededBytes), path, sectorBytes);
    }

    /** Opens for writing. */
    interface Opener {
        BlockTarget open() throws IOException;
    }

    private static RestoreTarget over(Opener opener, Path path, int sectorBytes) {
        return new RestoreTarget() {
            @Override
            public BlockTarget open() throws IOException {
                return opener.open();
            }

            @Override
            public BlockSource readBack() throws IOException {
                return RawSource.openPastCache(path).withSectorBytes(sectorBytes);
            }

            @Override
            public Optional<Path> place() {
                return Optional.of(path);
            }
        };
    }
}
