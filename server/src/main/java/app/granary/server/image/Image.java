package app.granary.server.image;

import app.granary.core.estimate.SizeEstimate;
import app.granary.core.image.BadStretch;
import app.granary.core.image.Lacks;
import app.granary.engine.site.ImageFacts;
import app.granary.engine.site.SiteImage;
import app.granary.server.estimate.Prospect;
import jakarta.persistence.Entity;
import jakarta.persistence.EntityListeners;
import jakarta.persistence.EnumType;
import jakarta.persistence.Enumerated;
import jakarta.persistence.Id;
import java.time.Instant;
import java.util.List;
import java.util.Locale;
import java.util.UUID;

/** An image on a destination, as it was made. What is found out about it later are checks. */
@Entity
@EntityListeners(ShelfListener.class)
class Image {
    @Id
    private UUID id;
    private String name;
    private String diskId;
    private String computer;
    private String disk;
    private String serial;
    private String destinationId;
    private String destination;
    private Instant madeAt;
    private String madeBy;
    private String codec;
    private int level;
    private long rawBytes;
    private long usedBytes;
    private long storedBytes;
    private long lowBytes;
    private long likelyBytes;
    private long highBytes;
    private boolean encrypted;
    private long badBytes;
    private int badPlaces;
    private UUID setId;
    @Enumerated(EnumType.STRING)
    private Origin origin = Origin.MADE;
    private String note = "";
    private String location = "";
    private int recheckDays;
    private String joinedDigest = "";
    private String contentDigest = "";
    private String inside = "";
    /** A line a part; null as long as nobody looked. */
    private String lacks;
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

    /** How the office came by it. */
    enum Origin {
        /** Granary made it. */
        MADE,
        /** A copy Granary made of another. */
        COPIED,
        /** Found made with other tools, or taken on from a drive. */
        FOUND,
        /** Only written down, its files never seen. */
        PAPER;

        String word() {
            return name().toLowerCase(Locale.ROOT);
        }
    }

    protected Image() {
    }

    static Image of(Prospect prospect, String destinationId, String destination, String name, SiteImage made, boolean encrypted, int recheckDays, Instant at, String by) {
        Image image = new Image();
        image.id = UUID.randomUUID();
        image.setId = image.id;
        image.recheckDays = recheckDays;
        image.encrypted = encrypted;
        image.badBytes = made.badSectors().stream().mapToLong(BadStretch::sizeBytes).sum();
        image.badPlaces = made.badSectors().size();
        image.name = name;
        image.diskId = prospect.source().disk().id();
        image.computer = prospect.source().computer().name();
        image.disk = prospect.source().disk().name();
        image.serial = prospect.source().disk().identity().serial();
        image.destinationId = destinationId;
        image.destination = destination;
        image.madeAt = at;
        image.madeBy = by;
        image.codec = prospect.storage().codec().word();
        image.level = prospect.storage().level();
        image.rawBytes = made.rawBytes();
        image.usedBytes = made.usedBytes();
        image.lacking(made.lacks());
        image.storedBytes = made.storedBytes();
        SizeEstimate size = prospect.size();
        image.lowBytes = size.lowBytes();
        image.likelyBytes = size.likelyBytes();
        image.highBytes = size.highBytes();
        return image;
    }

    /** What Granary knows of an image it did not make: what it is of and where it lies. */
    static Image found(Origin origin, String name, String computer, String diskId, String disk, String serial, String destinationId, String destination, Instant madeAt, String codec, String by) {
        Image image = new Image();
        image.id = UUID.randomUUID();
        image.setId = image.id;
        image.origin = origin;
        image.name = name;
        image.computer = computer;
        image.diskId = diskId;
        image.disk = disk;
        image.serial = serial;
        image.destinationId = destinationId;
        image.destination = destination;
        image.madeAt = madeAt;
        image.madeBy = by;
        image.codec = codec;
        image.recheckDays = Images.USUAL_RECHECK_DAYS;
        return image;
    }

    /** As it lies there, by what it says of itself. */
    Image sized(ImageFacts facts) {
        lacking(facts.lacks());
        return sized(facts.sizeBytes(), facts.partitions().stream().mapToLong(ImageFacts.Stretch::readBytes).sum(), facts.parts().stream().mapToLong(ImageFacts.File::bytes).sum(), facts.encrypted());
    }

    Image sized(long raw, long used, long stored, boolean secret) {
        rawBytes = raw;
        usedBytes = used;
        storedBytes = stored;
        lowBytes = stored;
        likelyBytes = stored;
        highBytes = stored;
        encrypted = secret;
        return this;
    }

    /** Where it lies on its destination, or by a paper log. */
    Image lying(String where) {
        location = where;
        return this;
    }

    /**
     * What an image made elsewhere holds, and what it is to be held against.
     *
     * @param content JSON of what its start told
     */
    Image holding(String content, String joined, String unpacked) {
        inside = content;
        joinedDigest = joined;
        contentDigest = unpacked;
        return this;
    }

    /** The length of the disk in it, once it was unpacked to its end. */
    void unpacksTo(long bytes) {
        rawBytes = bytes;
    }

    Image lacking(Lacks what) {
        lacks = String.join("\n", what.parts());
        return this;
    }

    /** Nothing where nobody looked. */
    Lacks lacks() {
        return lacks == null || lacks.isEmpty() ? Lacks.NOTHING : new Lacks(List.of(lacks.split("\n")));
    }

    String inside() {
        return inside;
    }

    String joinedDigest() {
        return joinedDigest;
    }

    String contentDigest() {
        return contentDigest;
    }

    /** The same image on another drive. */
    Image copyOn(String otherId, String other, Instant at, String by) {
        Image copy = found(Origin.COPIED, name, computer, diskId, disk, serial, otherId, other, madeAt, codec, by).sized(rawBytes, usedBytes, storedBytes, encrypted);
        copy.setId = setId;
        copy.level = level;
        copy.lowBytes = lowBytes;
        copy.likelyBytes = likelyBytes;
        copy.highBytes = highBytes;
        copy.badBytes = badBytes;
        copy.badPlaces = badPlaces;
        copy.recheckDays = recheckDays;
        copy.note = note;
        copy.lacks = lacks;
        return copy;
    }

    Shelf shelf() {
        return shelf;
    }

    void put(Shelf where) {
        shelf = where;
    }

    void comment(String text) {
        note = text;
    }

    boolean encrypted() {
        return encrypted;
    }

    long badBytes() {
        return badBytes;
    }

    int badPlaces() {
        return badPlaces;
    }

    /** Images with the same one are copies of each other. */
    UUID setId() {
        return setId;
    }

    Origin origin() {
        return origin;
    }

    String note() {
        return note;
    }

    String location() {
        return location;
    }

    int recheckDays() {
        return recheckDays;
    }

    UUID id() {
        return id;
    }

    String name() {
        return name;
    }

    String diskId() {
        return diskId;
    }

    void ofComputer(String name) {
        computer = name;
    }

    String computer() {
        return computer;
    }

    String disk() {
        return disk;
    }

    String serial() {
        return serial;
    }

    String destinationId() {
        return destinationId;
    }

    String destination() {
        return destination;
    }

    Instant madeAt() {
        return madeAt;
    }

    String madeBy() {
        return madeBy;
    }

    String codec() {
        return codec;
    }

    int level() {
        return level;
    }

    long rawBytes() {
        return rawBytes;
    }

    long usedBytes() {
        return usedBytes;
    }

    long storedBytes() {
        return storedBytes;
    }

    long lowBytes() {
        return lowBytes;
    }

    long likelyBytes() {
        return likelyBytes;
    }

    long highBytes() {
        return highBytes;
    }
}
