package app.granary.core.disk;

import java.util.Collection;
import java.util.List;

/**
 * A disk that answers now, in this attachment of it.
 *
 * @param id         lasting where it can be told by what it says, else that of the attachment
 * @param attachment another once the disk was pulled and plugged in again; never two at a time with the same
 * @param name       what the system calls it at present, for people only
 * @param identity   what it says it is
 * @param reached    the connector it is reached by, as the system counts them; an empty string where that is not told
 */
public record SeenDisk(String id, String attachment, String name, DiskIdentity identity, String reached) {
    /** The others among {@code attached} that answer as this one does. */
    public List<SeenDisk> twins(Collection<SeenDisk> attached) {
        return attached.stream().filter(other -> !other.attachment.equals(attachment) && other.identity.alike(identity)).toList();
    }

    /** Whether what it says is its own: it gives a serial, and no other attached disk answers alike. */
    public boolean told(Collection<SeenDisk> attached) {
        return !identity.serial().isBlank() && twins(attached).isEmpty();
    }
}
