package app.granary.server.account;

import jakarta.persistence.Entity;
import jakarta.persistence.EnumType;
import jakarta.persistence.Enumerated;
import jakarta.persistence.Id;
import java.time.Duration;
import java.time.Instant;

/** Someone who may make an account by a link that was handed over. Only a digest of the link's secret is kept. */
@Entity
class Invitation {
    static final Duration STANDS = Duration.ofDays(7);

    @Id
    private String tokenHash;
    private String name;
    @Enumerated(EnumType.STRING)
    private Role role;
    private Instant madeAt;
    private String madeBy;
    private Instant usedAt;

    protected Invitation() {
    }

    Invitation(String tokenHash, String name, Role role, Instant at, String by) {
        this.tokenHash = tokenHash;
        this.name = name;
        this.role = role;
        this.madeAt = at;
        this.madeBy = by;
    }

    boolean stands(Instant now) {
        return usedAt == null && now.isBefore(madeAt.plus(STANDS));
    }

    void use(Instant at) {
        usedAt = at;
    }

    String name() {
        return name;
    }

    Role role() {
        return role;
    }

    Instant madeAt() {
        return madeAt;
    }

    String madeBy() {
        return madeBy;
    }
}
