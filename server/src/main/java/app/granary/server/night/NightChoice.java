package app.granary.server.night;

import jakarta.persistence.Entity;
import jakarta.persistence.Id;
import java.time.Instant;
import java.time.LocalDate;
import java.util.UUID;

/** What a person chose about one plan for one night. */
@Entity
class NightChoice {
    @Id
    private UUID id;
    private LocalDate night;
    private UUID planId;
    private Instant pinnedStart;
    private String pinnedDrive;
    private boolean leftOut;
    private boolean askedFor;

    protected NightChoice() {
    }

    static NightChoice of(LocalDate night, UUID planId) {
        NightChoice choice = new NightChoice();
        choice.id = UUID.randomUUID();
        choice.night = night;
        choice.planId = planId;
        return choice;
    }

    /**
     * @param start null when it may start whenever it fits
     * @param drive null when it may go to any drive of its plan
     * @param out   whether it is left out that night
     * @param asked whether it runs though it is not due
     */
    void choose(Instant start, String drive, boolean out, boolean asked) {
        pinnedStart = start;
        pinnedDrive = drive;
        leftOut = out;
        askedFor = asked;
    }

    UUID planId() {
        return planId;
    }

    Instant pinnedStart() {
        return pinnedStart;
    }

    String pinnedDrive() {
        return pinnedDrive;
    }

    boolean leftOut() {
        return leftOut;
    }

    boolean askedFor() {
        return askedFor;
    }
}
