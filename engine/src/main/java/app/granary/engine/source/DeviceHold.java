package app.granary.engine.source;

import app.granary.core.fault.Fault;
import com.sun.jna.LastErrorException;
import com.sun.jna.Library;
import com.sun.jna.Memory;
import com.sun.jna.Native;
import com.sun.jna.Pointer;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;

/**
 * A block device that this program alone may have, as long as it is held: opened with O_EXCL, which Linux refuses for a device that is
 * mounted, is swap or is a member of a set of disks, and while which nobody can mount it or a partition of it (open(2)). Reading and
 * writing go on beside it through other descriptors. A file gets a lock, which other programs that lock theirs - virtual machines do - keep
 * to; one that a loop device is made of is in use by it.
 */
public final class DeviceHold implements AutoCloseable {
    /** asm-generic/fcntl.h of Linux: O_RDONLY 0, O_EXCL 0200, O_CLOEXEC 02000000 (octal); x86 and arm64 have them so. */
    private static final int READ_EXCLUSIVELY = 0200 | 02000000;
    /** asm-generic/errno-base.h of Linux. */
    private static final int EBUSY = 16;
    private static final int NOTHING = -1;
    private static final int READ_AND_WRITE = 2 | 02000000;
    /**
     * asm-generic/fcntl.h: a lock that belongs to the open file, so that closing another descriptor of it takes nothing away (fcntl(2),
     * "Open file description locks").
     */
    private static final int SET_LOCK = 37;
    private static final short WRITE_LOCK = 1;
    private static final int EAGAIN = 11;
    private static final int EACCES = 13;
    private static final int FLOCK_BYTES = 32;
    /** What this program holds itself. */
    private static final Set<Path> OURS = ConcurrentHashMap.newKeySet();

    private final int descriptor;
    private final Path path;

    private DeviceHold(int descriptor, Path path) {
        this.descriptor = descriptor;
        this.path = path;
        OURS.add(path);
    }

    /** Whether a run of this program holds it: then its own claims say who may use it. */
    public static boolean isOurs(Path path) throws IOException {
        return Files.exists(path) && OURS.contains(path.toRealPath());
    }

    /** The two calls of the C library. */
    private interface System extends Library {
        int open(String path, int flags) throws LastErrorException;

        int close(int descriptor) throws LastErrorException;

        int fcntl(int descriptor, int command, Pointer lock) throws LastErrorException;
    }

    /** Loaded when the first device is held; files need no native code. */
    private static final class Loaded {
        static final System SYSTEM = Native.load("c", System.class);
    }

    /**
     * @throws HeldElsewhere                         when something else holds it
     * @throws app.granary.core.fault.FaultException when it cannot be told; what cannot be told is not free
     */
    public static DeviceHold of(Path path) throws IOException, HeldElsewhere {
        if (Files.isDirectory(path) || !Files.exists(path)) {
            return new DeviceHold(NOTHING, path);
        }
        if (Files.isRegularFile(path)) {
            return file(path.toRealPath());
        }
        try {
            return new DeviceHold(Loaded.SYSTEM.open(path.toRealPath().toString(), READ_EXCLUSIVELY), path.toRealPath());
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

    private static DeviceHold file(Path file) throws IOException, HeldElsewhere {
        if (!Sysfs.loopsOf(file).isEmpty()) {
            throw new HeldElsewhere();
        }
        if (!Files.isWritable(file)) {
            return new DeviceHold(NOTHING, file); // read-only to us: nobody is kept from reading
        }
        int descriptor = NOTHING;
        try {
            descriptor = Loaded.SYSTEM.open(file.toString(), READ_AND_WRITE);
            Memory whole = new Memory(FLOCK_BYTES);
            whole.clear();
            whole.setShort(0, WRITE_LOCK); // from the beginning, all of it
            Loaded.SYSTEM.fcntl(descriptor, SET_LOCK, whole);
            return new DeviceHold(descriptor, file);
        } catch (LastErrorException refused) {
            if (descriptor != NOTHING) {
                Loaded.SYSTEM.close(descriptor);
            }
            if (refused.getErrorCode() == EAGAIN || refused.getErrorCode() == EACCES) {
                throw new HeldElsewhere();
            }
            return new DeviceHold(NOTHING, file); // a file system without locks
        } catch (LinkageError noNativeCode) {
            return new DeviceHold(NOTHING, file);
        }
    }

    @Override
    public void close() {
        OURS.remove(path);
        if (descriptor != NOTHING) {
            Loaded.SYSTEM.close(descriptor);
        }
    }

    /** Something else holds the device. */
    public static final class HeldElsewhere extends Exception {
        private static final long serialVersionUID = 1;
    }
}
