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

    protected Account() {
    }

    Account(String name, String passwordHash, Role role, Instant createdAt) {
        this.name = name;
        this.passwordHash = passwordHash;
        this.role = role;
        this.createdAt = createdAt;
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
