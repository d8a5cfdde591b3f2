package app.granary.engine.restore;

import app.granary.core.disk.BlockSource;
import app.granary.core.disk.PartitionTable;
import app.granary.core.disk.TableSectors;
import app.granary.core.disk.TableWriter;
import app.granary.core.layout.Placed;
import app.granary.core.layout.RestoreLayout;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Comparator;
import java.util.List;

/** Everything a layout changes of an image's bytes. */
final class Patches {
    private Patches() {
    }

    /**
     * @param image what is restored, to read its boot sectors from
     * @return in rising order, none overlapping another
     */
    static List<Patch> of(BlockSource image, RestoreLayout layout) throws IOException {
        List<Patch> out = new ArrayList<>();
        for (Placed each : layout.placed()) {
            if (each.moved() && each.restored()) {
                out.addAll(BootSectors.moved(image, each));
            }
        }
        if (tableChanges(image, layout)) {
            ByteBuffer first = ByteBuffer.allocate(image.sectorBytes());
            image.read(0, first);
            for (TableSectors sectors : TableWriter.write(layout.table(), layout.target().sizeBytes(), layout.target().sectorBytes(),
                first.array())) {
                out.add(new Patch(sectors.offsetBytes(), sectors.content()));
            }
        }
        out.sort(Comparator.comparingLong(Patch::offsetBytes));
        return out;
    }

    private static boolean tableChanges(BlockSource image, RestoreLayout layout) {
        boolean table = layout.table() instanceof PartitionTable.Gpt || layout.table() instanceof PartitionTable.Mbr;
        boolean same = layout.asItWas()
            && (layout.table() instanceof PartitionTable.Mbr || layout.target().sizeBytes() == image.sizeBytes());
        return table && !same && !layout.othersStay();
    }

    /** Puts what was meant into what was read, where a patch lies over it: patches are held against the target on their own. */
    static void hide(List<Patch> patches, long where, byte[] meant, byte[] there, int start, int count) {
        for (Patch each : patches) {
            long left = Math.max(each.offsetBytes(), where);
            long right = Math.min(each.endBytes(), where + count);
            if (left < right) {
                int at = (int) (start + left - where);
                System.arraycopy(meant, at, there, at, (int) (right - left));
            }
        }
    }

    /** Those that read back as something else. */
    static List<Patch> lost(List<Patch> patches, BlockSource target) throws IOException {
        List<Patch> out = new ArrayList<>();
        for (Patch each : patches) {
            byte[] there = new byte[each.content().length];
            target.read(each.offsetBytes(), ByteBuffer.wrap(there));
            if (!Arrays.equals(there, each.content())) {
                out.add(each);
            }
        }
        return out;
    }
}
