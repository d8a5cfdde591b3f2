package app.granary.engine.elsewhere;

import app.granary.core.disk.Partition;
import app.granary.core.image.DiskInside;
import java.time.Instant;
import java.util.List;

/**
 * An image that Granary did not make, or does not know yet, as it lies in a folder.
 *
 * @param folder        where, relative to its destination, with slashes; an empty string for the destination itself
 * @param name          what its files have in common; the folder's name for an image of Granary's
 * @param kind          what it is
 * @param files         in order; of an image of Granary's its parts
 * @param joinedDigest  SHA-256 of all files one after another, where a list gives it; otherwise an empty string
 * @param contentDigest SHA-256 of what is packed in them, where a list gives it; otherwise an empty string
 * @param inside        what its start tells
 * @param writtenAt     when its newest file was last written, or by its own description was made
 * @param trouble       why it cannot be added as it is, with what to do; usually an empty string
 */
public record ElsewhereImage(String folder, String name, Kind kind, List<ElsewhereFile> files, String joinedDigest, String contentDigest,
    DiskInside inside, Instant writtenAt, String trouble) {
    public ElsewhereImage {
        files = List.copyOf(files);
    }

    public enum Kind {
        /** A folder in Granary's own format. */
        GRANARY,
        /** One file, or a file in parts, of a disk's bytes, packed or not. */
        RAW,
        /** A disk's table and its partitions in files of their own, as they are made in a shell; named by the file of the table. */
        SET,
        /** A disk of a virtual computer, in one of the open containers. */
        VIRTUAL,
        /** A file nobody can look into; its length and its digest are all there is to know. */
        KEPT
    }

    public ElsewhereImage in(String otherFolder) {
        return new ElsewhereImage(otherFolder, name, kind, files, joinedDigest, contentDigest, inside, writtenAt, trouble);
    }

    public ElsewhereImage with(List<ElsewhereFile> otherFiles, DiskInside otherInside) {
        return new ElsewhereImage(folder, name, kind, otherFiles, joinedDigest, contentDigest, otherInside, writtenAt, trouble);
    }

    /** Partitions of its table that no file of it holds; none but for a {@link Kind#SET}. */
    public List<Partition> lacking() {
        return kind == Kind.SET ? ShellSet.of(this).lacking() : List.of();
    }

    public long storedBytes() {
        return files.stream().mapToLong(ElsewhereFile::bytes).sum();
    }
}
