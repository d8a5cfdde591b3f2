package app.granary.server.image;

import app.granary.core.image.Lacks;
import app.granary.engine.host.ImageFacts;
import jakarta.persistence.CascadeType;
import jakarta.persistence.Entity;
import jakarta.persistence.EntityListeners;
import jakarta.persistence.EnumType;
import jakarta.persistence.Enumerated;
import jakarta.persistence.Id;
import jakarta.persistence.ManyToOne;
import jakarta.persistence.Table;
import java.util.Locale;
import java.util.UUID;

/** One place where an image lies. What is found out about it later are checks. */
@Entity
@Table(name = "image_copy")
@EntityListeners(ShelfListener.class)
class Copy {
    @Id
    private UUID id;
    @ManyToOne(optional = false, cascade = {CascadeType.PERSIST, CascadeType.MERGE})
    private Image image;
    private String destinationId;
    private String destination;
    private String folder = "";
    private String movingTo = "";
    private long storedBytes;
    private String joinedDigest = "";
    private boolean onItsDisk;
    private String laidBy;
    @Enumerated(EnumType.STRING)
    private Shelf shelf = Shelf.KEPT;

    /** Whether it is there. */
    enum Shelf {
        KEPT,
        /** Released: in the trash of its drive, or waiting for the drive to be attached. It can be taken back. */
        RELEASED,
        /** Emptied from the trash, or found missing; only its record is left. */
        GONE;

        String word() {
            return name().toLowerCase(Locale.ROOT);
        }
    }

    protected Copy() {
    }

    /** The first copy of an image has its identity, so that what led to the one leads to the other. */
    private Copy(UUID id, Image image, String destinationId, String destination, String by) {
        this.id = id;
        this.image = image;
        this.destinationId = destinationId;
        this.destination = destination;
        this.laidBy = by;
    }

    static Copy first(Image image, String destinationId, String destination) {
        return new Copy(image.id(), image, destinationId, destination, image.madeBy());
    }

    /** The same image on another drive. */
    Copy on(String otherId, String other, String by) {
        return new Copy(UUID.randomUUID(), image, otherId, other, by).storing(storedBytes);
    }

    /** @param there whether it lies on the very disk its image is of */
    Copy onItsDisk(boolean there) {
        onItsDisk = there;
        return this;
    }

    /** What of its disk it lacks, here: what dies with the disk stands for nothing. */
    Lacks lacks() {
        return onItsDisk ? Lacks.ON_ITS_OWN_DISK : image.lacks();
    }

    Copy storing(long bytes) {
        storedBytes = bytes;
        return this;
    }

    /** As it lies there, by what it says of itself. */
    Copy sized(ImageFacts facts) {
        long stored = facts.parts().stream().mapToLong(ImageFacts.File::bytes).sum();
        image.lacking(facts.lacks())
            .sized(facts.sizeBytes(), facts.partitions().stream().mapToLong(ImageFacts.Stretch::readBytes).sum(), facts.encrypted())
            .estimated(stored, stored, stored);
        return storing(stored);
    }

    /** Where it lies on its destination, or by a paper log. */
    Copy lying(String where) {
        folder = where;
        return this;
    }

    /** @param joined digest of its files, one behind the other; empty where nobody knows */
    Copy joining(String joined) {
        joinedDigest = joined;
        return this;
    }

    /** @param where "folder|name"; an empty string once it is there, or is not going any more */
    void movingTo(String where) {
        movingTo = where;
    }

    String movingTo() {
        return movingTo;
    }

    void put(Shelf where) {
        shelf = where;
    }

    UUID id() {
        return id;
    }

    Image image() {
        return image;
    }

    String destinationId() {
        return destinationId;
    }

    String destination() {
        return destination;
    }

    /** Relative to the destination; an empty string for the folder Granary keeps its own in. */
    String folder() {
        return folder;
    }

    long storedBytes() {
        return storedBytes;
    }

    String joinedDigest() {
        return joinedDigest;
    }

    String laidBy() {
        return laidBy;
    }

    Shelf shelf() {
        return shelf;
    }

    boolean isKept() {
        return shelf == Shelf.KEPT;
    }

    /** Whether it was copied from another, rather than made or found where it lies. */
    boolean copied() {
        return !id.equals(image.id());
    }
}
