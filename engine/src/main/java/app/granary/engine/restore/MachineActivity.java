package app.granary.engine.restore;

import app.granary.core.disk.BlockSource;
import app.granary.core.disk.SourceOver;
import app.granary.core.disk.Sparse;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.util.Optional;
import java.util.concurrent.atomic.AtomicLong;
import java.util.stream.Stream;

/** What a machine made of software does between two looks at it: whether it is let run, whether it runs, and whether it reads its disk. */
final class MachineActivity {
    private final AtomicLong reads = new AtomicLong();
    private Duration ranBefore = Duration.ZERO;
    private long waitedBefore;
    private long readsBefore;

    /**
     * Since the look before.
     *
     * @param waitedNanos how long its threads waited for a processor that other programs had; 0 where the system does not tell
     * @param ran         how long they had one; empty where the system does not tell
     * @param read        whether it read its disk
     */
    record Since(long waitedNanos, Optional<Duration> ran, boolean read) {
        /** Whether all it did was next to nothing. */
        boolean quiet(Duration look) {
            return !read && ran.isPresent() && ran.get().compareTo(look.dividedBy(5)) < 0;
        }
    }

    /** The disk it reads, with what is known of it; stays its owner's to close. */
    BlockSource watched(BlockSource disk) {
        return new Watched(disk);
    }

    private final class Watched extends SourceOver implements Sparse {
        Watched(BlockSource disk) {
            super(disk);
        }

        @Override
        public void read(long offsetBytes, ByteBuffer into) throws IOException {
            reads.incrementAndGet();
            source.read(offsetBytes, into);
        }

        @Override
        public Stretch stretch(long atBytes) {
            return source instanceof Sparse sparse ? sparse.stretch(atBytes) : new Stretch(false, source.sizeBytes());
        }
    }

    Since look(Process machine) {
        Optional<Duration> ran = machine.info().totalCpuDuration();
        long waited = waitedNanos(machine);
        long readsNow = reads.get();
        Since out = new Since(waited - waitedBefore, ran.map(each -> each.minus(ranBefore)), readsNow != readsBefore);
        ranBefore = ran.orElse(Duration.ZERO);
        waitedBefore = waited;
        readsBefore = readsNow;
        return out;
    }

    /** Linux, Documentation/scheduler/sched-stats.rst, the second figure of /proc/PID/task/TID/schedstat. */
    private static long waitedNanos(Process machine) {
        long sum = 0;
        try (Stream<Path> threads = Files.list(Path.of("/proc", "" + machine.pid(), "task"))) {
            for (Path thread : threads.toList()) {
                sum += Long.parseLong(Files.readString(thread.resolve("schedstat")).split("\\s+")[1]);
            }
        } catch (IOException | RuntimeException notTold) {
            return 0;
        }
        return sum;
    }
}
