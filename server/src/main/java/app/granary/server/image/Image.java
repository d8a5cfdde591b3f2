package app.granary.server.image;

import app.granary.core.estimate.SizeEstimate;
import app.granary.engine.site.SiteImage;
import app.granary.server.estimate.Prospects;
import jakarta.persistence.Entity;
import jakarta.persistence.Id;
import java.time.Instant;
import java.util.UUID;

/** An image on a destination, as it was made. What is found out about it later are checks. */
@Entity
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

    protected Image() {
    }

    static Image of(Prospects.Prospect prospect, String destinationId, String destination, String name, SiteImage made, Instant at, String by) {
        Image image = new Image();
        image.id = UUID.randomUUID();
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
        image.storedBytes = made.storedBytes();
        SizeEstimate size = prospect.size();
        image.lowBytes = size.lowBytes();
        image.likelyBytes = size.likelyBytes();
        image.highBytes = size.highBytes();
        return image;
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
