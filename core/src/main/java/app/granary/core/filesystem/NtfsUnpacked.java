package app.granary.core.filesystem;

import app.granary.core.fault.FaultException;
import java.io.IOException;
import java.io.InputStream;
import java.nio.ByteBuffer;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;

/**
 * The bytes of a packed file of NTFS. It is kept in units of clusters: one whose clusters are all there is kept as it is, one with none is
 * zeros, one with some begins with them, packed.
 */
final class NtfsUnpacked extends InputStream {
    private final NtfsVolume volume;
    private final FileEntry file;
    private final List<NtfsRuns.Run> runs;
    private final int unitClusters;
    private final long bytes;
    private final byte[] unit;
    private long done;
    private int run;
    private long ofRun;

    NtfsUnpacked(NtfsVolume volume, NtfsVolume.Stream data, FileEntry file) throws Untrusted {
        this.volume = volume;
        this.file = file;
        this.runs = data.runs().runs();
        this.unitClusters = data.first().unitClusters();
        this.bytes = data.first().dataBytes();
        int cluster = volume.geometry().clusterBytes();
        Untrusted.unless(bytes >= 0 && bytes <= data.runs().clusters() * cluster && (long) unitClusters * cluster <= 4 << 20,
            "its length makes no sense");
        this.unit = new byte[unitClusters * cluster];
    }

    @Override
    public int read() throws IOException {
        byte[] one = new byte[1];
        return read(one, 0, 1) < 0 ? -1 : one[0] & 0xFF;
    }

    @Override
    public int read(byte[] into, int offset, int length) throws IOException {
        if (length == 0 || done == bytes) {
            return length == 0 ? 0 : -1;
        }
        int at = (int) (done % unit.length);
        if (at == 0) {
            try {
                fill();
            } catch (FaultException failed) {
                throw FileTree.onDamage(file, done, unit.length, failed);
            } catch (Untrusted nonsense) {
                throw FileTree.damaged(file, nonsense.getMessage());
            }
        }
        int count = (int) Math.min(Math.min(length, unit.length - at), bytes - done);
        System.arraycopy(unit, at, into, offset, count);
        done += count;
        return count;
    }

    private void fill() throws IOException, Untrusted {
        List<NtfsRuns.Run> kept = new ArrayList<>();
        long clusters = 0;
        for (long left = unitClusters; left > 0 && run < runs.size();) {
            NtfsRuns.Run now = runs.get(run);
            long count = Math.min(left, now.count() - ofRun);
            if (now.cluster() != NtfsRuns.HOLE) {
                kept.add(new NtfsRuns.Run(now.cluster() + ofRun, count));
                clusters += count;
            }
            left -= count;
            ofRun += count;
            if (ofRun == now.count()) {
                run++;
                ofRun = 0;
            }
        }
        byte[] stored = clusters == unitClusters ? unit : new byte[(int) clusters * volume.geometry().clusterBytes()];
        volume.read(new NtfsRuns(kept), 0, ByteBuffer.wrap(stored));
        if (clusters == 0) {
            Arrays.fill(unit, (byte) 0);
        } else if (stored != unit) {
            Lznt1.unpack(stored, stored.length, unit);
        }
    }
}
