package app.granary.engine.host;

import static org.junit.jupiter.api.Assertions.assertTrue;
import app.granary.core.claim.Claims;
import app.granary.core.claim.Device;
import app.granary.core.claim.DeviceClaim;
import app.granary.core.disk.BlockSource;
import app.granary.core.disk.SeenDisk;
import app.granary.core.fault.Fault;
import app.granary.core.target.TargetDisk;
import app.granary.core.target.TargetLook;
import app.granary.engine.restore.RestoreTarget;
import app.granary.engine.source.BlockTarget;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;

/** A machine with the disks of one history, as it tells of them. */
abstract class HistoryMachine implements TargetHold.Machine<HistoryDisk> {
    final List<HistoryDisk> disks = new ArrayList<>();
    int runs;
    Claims<Integer> claims = new Claims<>();

    List<SeenDisk> seen() {
        List<SeenDisk> bare = disks.stream().map(each -> new SeenDisk(each.attached(), each.attached(), each.path, each.identity, ""))
            .toList();
        return bare.stream().map(each -> each.told(bare)
            ? new SeenDisk(each.identity().serial(), each.attachment(), each.name(), each.identity(), "") : each).toList();
    }

    @Override
    public List<HistoryDisk> found(String id) {
        return disks.stream().filter(each -> look(each).disk().id().equals(id)).toList();
    }

    @Override
    public TargetLook look(HistoryDisk disk) {
        List<SeenDisk> all = seen();
        SeenDisk mine = all.stream().filter(each -> each.attachment().equals(disk.attached())).findFirst().orElseThrow();
        TargetDisk target = new TargetDisk(mine.id(), disk.path, disk.identity, 512, "usb", TargetDisk.Kind.SPARE, true, false,
            disk.mounted ? "mounted" : "", mine.twins(all).stream().map(SeenDisk::name).toList(),
            List.of(), 1);
        return new TargetLook(target, List.of("begins with " + Arrays.hashCode(Arrays.copyOf(disk.bytes, 4096))));
    }

    @Override
    public boolean same(HistoryDisk one, HistoryDisk other) {
        return one == other;
    }

    @Override
    public TargetHold.Hold hold(HistoryDisk disk) throws IOException {
        if (disk.mounted || disk.holder != 0) {
            throw Fault.of(Fault.Kind.FORBIDDEN, disk.path, disk.path + " is in use").asException();
        }
        int mine = disk.holder = ++runs;
        return () -> {
            if (disk.holder == mine) {
                disk.holder = 0;
            }
        };
    }

    RestoreTarget overwritten(HistoryDisk disk, TargetHold<HistoryDisk> held) {
        BlockTarget target = new Overwritten(disk, held);
        return new RestoreTarget() {
            @Override
            public BlockTarget open() {
                return target;
            }

            @Override
            public BlockSource readBack() {
                return disk.source();
            }
        };
    }

    /** A disk that is written, and asks at every write whether that was claimed. */
    private final class Overwritten implements BlockTarget {
        private final HistoryDisk disk;
        private final TargetHold<HistoryDisk> held;
        private final int attachment;
        private final String key;

        private Overwritten(HistoryDisk disk, TargetHold<HistoryDisk> held) {
            this.disk = disk;
            this.held = held;
            this.attachment = disk.attachment;
            this.key = Device.of(disk.identity, look(disk).disk().id(), "").key();
        }

        @Override
        public String name() {
            return disk.path;
        }

        @Override
        public long sizeBytes() {
            return HistoryDisk.BYTES;
        }

        @Override
        public boolean startsAsZeros() {
            return false;
        }

        @Override
        public void write(long offset, ByteBuffer content) throws IOException {
            byte[] out = new byte[content.remaining()];
            content.get(out);
            if (disk.attachment != attachment) {
                throw new IOException("Input/output error");
            }
            assertTrue(
                claims.held().stream()
                    .anyMatch(each -> each.use() == DeviceClaim.Use.WRITE && each.device().key().equals(key)),
                "nobody claimed what is written");
            assertTrue(claims.held().stream().filter(each -> each.device().key().equals(key)).count() == 1,
                "somebody else uses what is written");
            assertTrue(disk.holder != 0 && !disk.mounted && held.disk() == disk);
            disk.allowed((int) offset, out);
        }

        @Override
        public void flush() {
        }

        @Override
        public void finish() {
        }

        @Override
        public void close() {
        }
    }
}
