package app.granary.server.rescue;

import app.granary.server.column.TextList;
import jakarta.persistence.Convert;
import jakarta.persistence.Entity;
import jakarta.persistence.Id;
import jakarta.persistence.Version;
import java.time.Instant;
import java.util.List;
import java.util.UUID;

/** A stick or disc of the register. */
@Entity
class RescueStick {
    @Id
    private UUID id;
    private String name;
    private String kind;
    private String model;
    private String serial;
    private long sizeBytes;
    private String contents;
    @Convert(converter = TextList.class)
    private List<String> starts;
    private Instant since;
    private int writes;
    private int errors;
    private String place;
    private boolean spareSet;
    private Instant retiredAt;
    private UUID pendingRun;
    private String pendingContents;
    @Convert(converter = TextList.class)
    private List<String> pendingStarts;
    /** Whether the pending run may have written its first byte. */
    private boolean touched;
    private String imageFile = "";
    private Instant imageAt;
    private String imageDigest = "";
    @Version
    private long version;

    protected RescueStick() {
    }

    /** @param kind "stick" or "disc" */
    RescueStick(String name, String kind, String model, String serial, long sizeBytes, String contents, List<String> starts, String place,
        boolean spareSet, Instant since) {
        this.id = UUID.randomUUID();
        this.name = name;
        this.kind = kind;
        this.model = model;
        this.serial = serial;
        this.sizeBytes = sizeBytes;
        this.contents = contents;
        this.starts = List.copyOf(starts);
        this.place = place;
        this.spareSet = spareSet;
        this.since = since;
        this.writes = contents.isEmpty() ? 0 : 1;
        this.pendingContents = "";
        this.pendingStarts = List.of();
    }

    void change(String newPlace, boolean ofSpareSet, String newContents) {
        place = newPlace;
        spareSet = ofSpareSet;
        contents = newContents;
    }

    /** It is to be written. */
    void writing(UUID run, String what, List<String> starting) {
        pendingRun = run;
        pendingContents = what;
        pendingStarts = List.copyOf(starting);
    }

    /** The first byte follows: from here until all is written nobody knows what is on it, whatever becomes of Granary. */
    void touched() {
        touched = true;
    }

    /** What was on it still is when nothing was written. */
    void ended(boolean done) {
        if (touched) {
            writes++;
            errors += done ? 0 : 1;
            contents = done ? pendingContents : "";
            starts = done ? pendingStarts : List.of();
        }
        touched = false;
        pendingRun = null;
        pendingContents = "";
        pendingStarts = List.of();
    }

    /** Its own image was kept. */
    void kept(String file, String digest, Instant at) {
        imageFile = file;
        imageDigest = digest;
        imageAt = at;
    }

    /** @param places that could not be read of it, or did not come back as written */
    void failed(int places) {
        errors += places;
    }

    /** Name among the rescue files; an empty string where none was kept. */
    String imageFile() {
        return imageFile;
    }

    String imageDigest() {
        return imageDigest;
    }

    Instant imageAt() {
        return imageAt;
    }

    void retire(Instant at) {
        retiredAt = at;
    }

    UUID id() {
        return id;
    }

    String name() {
        return name;
    }

    String kind() {
        return kind;
    }

    String model() {
        return model;
    }

    String serial() {
        return serial;
    }

    long sizeBytes() {
        return sizeBytes;
    }

    String contents() {
        return contents;
    }

    List<String> starts() {
        return starts;
    }

    Instant since() {
        return since;
    }

    int writes() {
        return writes;
    }

    int errors() {
        return errors;
    }

    String place() {
        return place;
    }

    boolean spareSet() {
        return spareSet;
    }

    Instant retiredAt() {
        return retiredAt;
    }

    UUID pendingRun() {
        return pendingRun;
    }
}
