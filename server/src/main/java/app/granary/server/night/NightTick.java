package app.granary.server.night;

import jakarta.persistence.Entity;
import jakarta.persistence.GeneratedValue;
import jakarta.persistence.GenerationType;
import jakarta.persistence.Id;
import java.time.Instant;
import java.time.LocalDate;
import java.util.UUID;

/** Something a person did before a night, ticked. */
@Entity
class NightTick {
    @Id
    @GeneratedValue(strategy = GenerationType.IDENTITY)
    private Long id;
    private LocalDate night;
    private UUID planId;
    private String item;
    private Instant at;
    private String account;

    protected NightTick() {
    }

    NightTick(LocalDate night, UUID planId, String item, Instant at, String account) {
        this.night = night;
        this.planId = planId;
        this.item = item;
        this.at = at;
        this.account = account;
    }

    UUID planId() {
        return planId;
    }

    String item() {
        return item;
    }

    Instant at() {
        return at;
    }

    String account() {
        return account;
    }
}
