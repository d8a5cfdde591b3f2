package app.granary.engine.verify;

import app.granary.core.disk.Partition;
import app.granary.core.disk.PartitionTable;
import app.granary.core.disk.PartitionTables;
import app.granary.core.proof.Problem;
import app.granary.engine.bag.Bag;
import app.granary.engine.bag.ImageDescription;
import app.granary.engine.bag.ImageJson;
import app.granary.engine.bag.ImageSource;
import java.io.IOException;
import java.util.List;
import java.util.Optional;

/** Reads the partition table out of an image and compares it with what the image says its partitions are. */
final class TableCheck {
    private TableCheck() {
    }

    static Optional<Problem> of(Bag bag, ImageJson.Content content) throws IOException {
        ImageDescription description = content.description();
        if (description.scheme().equals("none") || description.partitions().isEmpty()) {
            return Optional.empty();
        }
        try (ImageSource source = new ImageSource(bag, content)) {
            PartitionTable table = PartitionTables.read(source);
            List<Long> found = table.partitions().stream().map(Partition::startBytes).toList();
            List<Long> expected = description.partitions().stream().map(ImageDescription.ImagePartition::startBytes).toList();
            if (found.equals(expected)) {
                return Optional.empty();
            }
            return Optional.of(new Problem("data/image.json", 0, 0, "", "The partition table in the image (" + table.scheme()
                + ") does not give the partitions the image was made with. Capture the disk again."));
        }
    }
}
