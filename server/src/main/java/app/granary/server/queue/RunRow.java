package app.granary.server.queue;

import app.granary.server.journal.Journal;
import jakarta.persistence.Entity;
import jakarta.persistence.EnumType;
import jakarta.persistence.Enumerated;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.time.Instant;
import java.time.LocalDate;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import java.util.UUID;

/** A run as it is kept. */
@Entity(name = "Run")
@Table(name = "run")
class RunRow implements Run {
    private static final int LONGEST_OUTCOME = 2000;

    @Id
    private UUID id;
    @Enumerated(EnumType.STRING)
    private Kind kind;
    @Enumerated(EnumType.STRING)
    private State state;
    @Enumerated(EnumType.STRING)
    private Waits waits;
    private String computer;
    private String diskId;
    private String disk;
    private String destinationId;
    private String destination;
    private String imageName;
    private UUID copyId;
    private Instant begunAt;
    private String begunBy;
    private Instant endedAt;
    private Instant seenAt;
    private long likelyBytes;
    private double lowSeconds;
    private double highSeconds;
    private long storedBytes;
    private String outcome;
    private boolean foundDamage;
    private boolean encrypted;
    private boolean lowPriority;
    private LocalDate night;
    private UUID planId;
    private Instant startsAt;
    private String goesOnIn = "";

    protected RunRow() {
    }

    RunRow(NewRun asked, Instant at, String by) {
        id = asked.id();
        kind = asked.kind();
        state = State.QUEUED;
        waits = Waits.NOTHING;
        computer = asked.about().computer();
        diskId = asked.about().diskId();
        disk = asked.about().disk();
        destinationId = asked.about().destinationId();
        destination = asked.about().destination();
        imageName = asked.imageName();
        copyId = asked.copyId().orElse(null);
        likelyBytes = asked.expected().bytes();
        lowSeconds = asked.expected().lowSeconds();
        highSeconds = asked.expected().highSeconds();
        encrypted = asked.encrypted();
        lowPriority = asked.lowPriority();
        asked.ofNight().ifPresent(of -> {
            night = of.night();
            planId = of.planId();
            startsAt = of.start();
        });
        begunAt = at;
        begunBy = by;
        outcome = "";
    }

    void begin(String name, Instant at) {
        state = State.RUNNING;
        waits = Waits.NOTHING;
        imageName = name;
        begunAt = at;
        outcome = "";
    }

    void expect(NewRun.Expected expected) {
        likelyBytes = expected.bytes();
        lowSeconds = expected.lowSeconds();
        highSeconds = expected.highSeconds();
    }

    void startAt(Instant at) {
        startsAt = at;
    }

    void lower(boolean low) {
        lowPriority = low;
    }

    /** In which computer that joined the whole of it is done, so that it goes on there while Granary is away; an empty string for none. */
    String goesOnIn() {
        return goesOnIn;
    }

    void goesOnIn(String machine) {
        goesOnIn = machine;
    }

    /** @return whether that is news */
    boolean waitFor(Waits what, String sentence) {
        boolean news = waits != what || !sentence.equals(outcome);
        waits = what;
        outcome = sentence;
        return news;
    }

    /** A clock that was set back meanwhile is told: its length cannot be trusted then, and what is dated by it is looked at twice. */
    void end(State how, Instant at, String sentence) {
        state = how;
        waits = Waits.NOTHING;
        endedAt = at;
        String told = at.isBefore(begunAt)
            ? sentence + " The clock was set back while this ran: set it right, and mind the date of what was made." : sentence;
        outcome = told.length() > LONGEST_OUTCOME ? told.substring(0, LONGEST_OUTCOME - 1) + "…" : told;
    }

    void damageFound() {
        foundDamage = true;
    }

    void made(UUID copy, long bytes) {
        copyId = copy;
        storedBytes = bytes;
    }

    /** A person took note that it failed. */
    void see(Instant at) {
        seenAt = at;
    }

    /** For the journal. */
    Journal.Facts facts(Took took) {
        Map<String, Long> figures = new TreeMap<>();
        if (storedBytes > 0) {
            figures.put("storedBytes", storedBytes);
        }
        if (took.capturingSeconds() > 0) {
            figures.put("capturingSeconds", Math.round(took.capturingSeconds()));
        }
        if (took.checkingSeconds() > 0) {
            figures.put("checkingSeconds", Math.round(took.checkingSeconds()));
        }
        return Journal.Facts.of(List.of(diskId, destinationId), figures, copyId == null ? "/runs" : "/images/" + copyId);
    }

    @Override
    public UUID id() {
        return id;
    }

    @Override
    public Kind kind() {
        return kind;
    }

    @Override
    public State state() {
        return state;
    }

    @Override
    public Waits waits() {
        return waits;
    }

    @Override
    public String computer() {
        return computer;
    }

    @Override
    public String diskId() {
        return diskId;
    }

    @Override
    public String disk() {
        return disk;
    }

    @Override
    public String destinationId() {
        return destinationId;
    }

    @Override
    public String destination() {
        return destination;
    }

    @Override
    public String imageName() {
        return imageName;
    }

    @Override
    public UUID copyId() {
        return copyId;
    }

    @Override
    public Instant begunAt() {
        return begunAt;
    }

    @Override
    public String begunBy() {
        return begunBy;
    }

    @Override
    public Instant endedAt() {
        return endedAt;
    }

    @Override
    public Instant seenAt() {
        return seenAt;
    }

    @Override
    public long likelyBytes() {
        return likelyBytes;
    }

    @Override
    public double lowSeconds() {
        return lowSeconds;
    }

    @Override
    public double highSeconds() {
        return highSeconds;
    }

    @Override
    public long storedBytes() {
        return storedBytes;
    }

    @Override
    public String outcome() {
        return outcome;
    }

    @Override
    public boolean foundDamage() {
        return foundDamage;
    }

    @Override
    public boolean encrypted() {
        return encrypted;
    }

    @Override
    public boolean lowPriority() {
        return lowPriority;
    }

    @Override
    public LocalDate night() {
        return night;
    }

    @Override
    public UUID planId() {
        return planId;
    }

    @Override
    public Instant startsAt() {
        return startsAt;
    }
}
