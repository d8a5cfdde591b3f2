package app.granary.server.image;

import app.granary.core.estimate.SizeEstimate;
import app.granary.core.image.BadStretch;
import app.granary.core.image.Lacks;
import app.granary.engine.elsewhere.ElsewhereImage;
import app.granary.engine.host.HostImage;
import app.granary.server.column.TextList;
import jakarta.persistence.Convert;
import jakarta.persistence.Entity;
import jakarta.persistence.EntityListeners;
import jakarta.persistence.EnumType;
import jakarta.persistence.Enumerated;
import jakarta.persistence.Id;
import java.time.Instant;
import java.util.List;
import java.util.Locale;
import java.util.UUID;

/** What was read of a disk at one moment, wherever it lies: in one copy or in several. */
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
    private Instant madeAt;
    private String madeBy;
    @Enumerated(EnumType.STRING)
    private Origin origin = Origin.MADE;
    private String codec;
    private int level;
    private long rawBytes;
    private long usedBytes;
    private long lowBytes;
    private long likelyBytes;
    private long highBytes;
    private boolean encrypted;
    private long badBytes;
    private int badPlaces;
    /** Null as long as nobody looked. */
    @Convert(converter = TextList.class)
    private List<String> lacks;
    private String inside = "";
    @Enumerated(EnumType.STRING)
    private ElsewhereImage.Kind kind = ElsewhereImage.Kind.RAW;
    private String contentDigest = "";
    private int recheckDays;
    private String note = "";

    /** How the office came by it. */
    enum Origin {
        /** Granary made it. */
        MADE,
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

    /** What Granary knows of an image it did not make. */
    static Image found(Origin origin, String name, Images.Of of, Instant madeAt, String by) {
        Image image = new Image();
        image.id = UUID.randomUUID();
        image.origin = origin;
        image.name = name;
        image.computer = of.computer();
        image.diskId = of.diskId();
        image.disk = of.disk();
        image.serial = of.serial();
        image.madeAt = madeAt;
        image.madeBy = by;
        image.codec = "";
        image.recheckDays = Images.USUAL_RECHECK_DAYS;
        return image;
    }

    static Image made(Images.Wanted wanted, String name, HostImage made, boolean encrypted, int recheckDays, Instant at, String by) {
        Image image = found(Origin.MADE, name, wanted.of(), at, by);
        image.codec = wanted.codec();
        image.level = wanted.level();
        image.recheckDays = recheckDays;
        image.badBytes = made.badSectors().stream().mapToLong(BadStretch::sizeBytes).sum();
        image.badPlaces = made.badSectors().size();
        SizeEstimate size = wanted.size();
        return image.lacking(made.lacks()).sized(made.rawBytes(), made.usedBytes(), encrypted).estimated(size.lowBytes(),
            size.likelyBytes(), size.highBytes());
    }

    Image sized(long raw, long used, boolean secret) {
        rawBytes = raw;
        usedBytes = used;
        encrypted = secret;
        return this;
    }

    /** How big a copy was thought to become; what it became, where nobody estimated it. */
    Image estimated(long low, long likely, long high) {
        lowBytes = low;
        likelyBytes = likely;
        highBytes = high;
        return this;
    }

    /**
     * What an image made elsewhere holds.
     *
     * @param content  JSON of what its start told
     * @param unpacked digest of what its files unpack to; empty where nobody knows
     */
    /** Of one made elsewhere. */
    ElsewhereImage.Kind kind() {
        return kind;
    }

    Image holding(ElsewhereImage.Kind files, String content, String unpacked) {
        kind = files;
        inside = content;
        contentDigest = unpacked;
        return this;
    }

    /** The length of the disk in it, once it was unpacked to its end. */
    void unpacksTo(long bytes) {
        rawBytes = bytes;
    }

    void called(String other) {
        name = other;
    }

    Image lacking(Lacks what) {
        lacks = List.copyOf(what.parts());
        return this;
    }

    /** Nothing where nobody looked. */
    Lacks lacks() {
        return lacks == null || lacks.isEmpty() ? Lacks.NOTHING : new Lacks(lacks);
    }

    void comment(String text) {
        note = text;
    }

    void ofComputer(String now) {
        computer = now;
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

    String computer() {
        return computer;
    }

    String disk() {
        return disk;
    }

    String serial() {
        return serial;
    }

    Instant madeAt() {
        return madeAt;
    }

    String madeBy() {
        return madeBy;
    }

    Origin origin() {
        return origin;
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

    long lowBytes() {
        return lowBytes;
    }

    long likelyBytes() {
        return likelyBytes;
    }

    long highBytes() {
        return highBytes;
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

    /** JSON of what an image made elsewhere holds; an empty string for one of Granary's format. */
    String inside() {
        return inside;
    }

    String contentDigest() {
        return contentDigest;
    }

    int recheckDays() {
        return recheckDays;
    }

    String note() {
        return note;
    }
}
