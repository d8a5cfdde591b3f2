package app.granary.server.account;

import jakarta.persistence.Entity;
import jakarta.persistence.EnumType;
import jakarta.persistence.Enumerated;
import jakarta.persistence.Id;
import java.time.Instant;

/** A person who may sign in. The password is kept only as a BCrypt hash. */
@Entity
class Account {
    @Id
    private String name;
    private String passwordHash;
    @Enumerated(EnumType.STRING)
    private Role role;
    private Instant createdAt;
    private Instant validFrom;
    private Instant closedAt;

    protected Account() {
    }

    Account(String name, String passwordHash, Role role, Instant createdAt) {
        this.name = name;
        this.passwordHash = passwordHash;
        this.role = role;
        this.createdAt = createdAt;
    }

    void password(String hash) {
        passwordHash = hash;
    }

    void become(Role other) {
        role = other;
    }

    /** Whoever signed in before must do so again. */
    void signOutBefore(Instant at) {
        validFrom = at;
    }

    /** @param at when; null to open it again */
    void close(Instant at) {
        closedAt = at;
    }

    Instant createdAt() {
        return createdAt;
    }

    /** Null while nobody was signed out. */
    Instant validFrom() {
        return validFrom;
    }

    /** Null while it is open. */
    Instant closedAt() {
        return closedAt;
    }

    String name() {
        return name;
    }

    String passwordHash() {
        return passwordHash;
    }

    Role role() {
        return role;
    }
}
