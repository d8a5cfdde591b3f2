package app.granary.core.layout;

import app.granary.core.target.Preparation;

/**
 * A partition to be made in what a layout leaves free.
 *
 * @param name       its label; 1 to 11 letters, digits and hyphens, which every file system takes
 * @param fileSystem that is made in it
 * @param sizeBytes  rounded down to whole alignments; 0 for the largest free stretch, whole
 */
public record NewPartition(String name, Preparation.StoreFileSystem fileSystem, long sizeBytes) {
    /** In alignments: so much every file system needs at least. */
    static final int LEAST = 16;

    NewPartition divided(long factor) {
        return new NewPartition(name, fileSystem, sizeBytes / factor);
    }
}
