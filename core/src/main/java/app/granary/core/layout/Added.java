package app.granary.core.layout;

import app.granary.core.disk.Partition;
import app.granary.core.target.Preparation;

/**
 * A partition that is made new on a target, empty, once all that is restored is there.
 *
 * @param to         where it comes to lie
 * @param label      of its file system
 */
public record Added(Partition to, Preparation.StoreFileSystem fileSystem, String label) {
}
