package app.granary.engine.source;

import app.granary.core.fault.Fault;
import com.sun.jna.LastErrorException;
import com.sun.jna.Library;
import com.sun.jna.Native;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;

/**
 * A block device that this program alone may have, as long as it is held: opened with O_EXCL, which Linux refuses for a device that is
 * mounted, is swap or is a member of a set of disks, and while which nobody can mount it or a partition of it (open(2)). Reading and
 * writing go on beside it through other descriptors. A file is not held: nobody mounts it unasked.
 */
public final class DeviceHold implements AutoCloseable {
    /** asm-generic/fcntl.h of Linux: O_RDONLY 0, O_EXCL 0200, O_CLOEXEC 02000000 (octal); x86 and arm64 have them so. */
    private static final int READ_EXCLUSIVELY = 0200 | 02000000;
    /** asm-generic/errno-base.h of Linux. */
    private static final int EBUSY = 16;
    private static final int NOTHING = -1;

    private final int descriptor;

    private DeviceHold(int descriptor) {
        this.descriptor = descriptor;
    }

    /** The two calls of the C library. */
    private interface System extends Library {
        int open(String path, int flags) throws LastErrorException;

        int close(int descriptor) throws LastErrorException;
    }

    /** Loaded when the first device is held; files need no native code. */
    private static final class Loaded {
        static final System SYSTEM = Native.load("c", System.class);
    }

    /**
     * @throws HeldElsewhere when something else holds it
     * @throws app.granary.core.fault.FaultException when it cannot be told; what cannot be told is not free
     */
    public static DeviceHold of(Path path) throws IOException, HeldElsewhere {
        if (Files.isRegularFile(path) || Files.isDirectory(path) || !Files.exists(path)) {
            return new DeviceHold(NOTHING);
        }
        try {
            return new DeviceHold(Loaded.SYSTEM.open(path.toRealPath().toString(), READ_EXCLUSIVELY));
        } catch (LastErrorException refused) {
            if (refused.getErrorCode() == EBUSY) {
                throw new HeldElsewhere();
            }
            throw Fault.of(Fault.Kind.FORBIDDEN, path.toString(), "Whether " + path + " is in use cannot be told (" + refused.getMessage()
                + "), so it is not touched. Start Granary with the rights to open it.").asException();
        } catch (LinkageError noNativeCode) {
            throw Fault.of(Fault.Kind.FORBIDDEN, path.toString(), "Whether " + path
                + " is in use cannot be told on this system, so it is not touched. Start this computer from rescue media.").asException();
        }
    }

    @Override
    public void close() {
        if (descriptor != NOTHING) {
            Loaded.SYSTEM.close(descriptor);
        }
    }

    /** Something else holds the device. */
    public static final class HeldElsewhere extends Exception {
        private static final long serialVersionUID = 1;
    }
}
