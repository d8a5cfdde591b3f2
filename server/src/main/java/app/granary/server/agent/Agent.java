package app.granary.server.agent;

import app.granary.core.inventory.ComputerReport;
import java.time.Instant;
import java.util.Optional;
import java.util.UUID;

/** A computer that has joined, for as long as it runs. Safe for several threads. */
final class Agent {
    private final UUID id = UUID.randomUUID();
    private final String name;
    private final String joinedBy;
    private final byte[] tokenDigest;
    private final Instant since;
    private volatile Instant heardAt;
    private volatile Optional<ComputerReport> report = Optional.empty();

    /**
     * @param name        as it calls itself
     * @param joinedBy    who made its code
     * @param tokenDigest SHA-256 of what it shows itself by
     */
    Agent(String name, String joinedBy, byte[] tokenDigest, Instant since) {
        this.name = name;
        this.joinedBy = joinedBy;
        this.tokenDigest = tokenDigest.clone();
        this.since = since;
        this.heardAt = since;
    }

    void heard(Instant at) {
        heardAt = at;
    }

    void reports(ComputerReport told) {
        report = Optional.of(told);
    }

    UUID id() {
        return id;
    }

    String name() {
        return name;
    }

    String joinedBy() {
        return joinedBy;
    }

    boolean shows(byte[] digest) {
        return java.security.MessageDigest.isEqual(tokenDigest, digest);
    }

    Instant since() {
        return since;
    }

    Instant heardAt() {
        return heardAt;
    }

    /** What it told of itself and its disks; empty until it did. */
    Optional<ComputerReport> report() {
        return report;
    }
}
