package app.granary.server.agent;

import app.granary.engine.line.HostState;
import app.granary.engine.line.LineHost;
import app.granary.core.machine.Network;
import app.granary.core.machine.Machine;
import java.time.Instant;
import java.util.Optional;
import java.util.Set;
import java.util.UUID;

/** A computer that has joined, for as long as it runs. Safe for several threads. */
final class Agent {
    private final UUID id;
    private final String name;
    private final String joinedBy;
    private final byte[] tokenDigest;
    private final Instant since;
    private final LineHost host;
    private volatile Instant heardAt;
    private volatile Set<String> disks;
    private volatile Optional<Network> network = Optional.empty();

    /**
     * @param name        as it calls itself
     * @param joinedBy    who made its code
     * @param tokenDigest SHA-256 of what it shows itself by
     * @param disks       those it last told of, by their ids
     */
    Agent(UUID id, String name, String joinedBy, byte[] tokenDigest, Instant since, Instant heardAt, Set<String> disks) {
        this.disks = disks;
        this.id = id;
        this.name = name;
        this.joinedBy = joinedBy;
        this.tokenDigest = tokenDigest.clone();
        this.since = since;
        this.heardAt = heardAt;
        this.host = new LineHost(id.toString(), name);
    }

    void heard(Instant at) {
        heardAt = at;
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

    byte[] tokenDigest() {
        return tokenDigest.clone();
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

    /** Its devices. */
    LineHost host() {
        return host;
    }

    /** As its devices say where they are. */
    Machine machine() {
        return new Machine(id.toString(), name, network);
    }

    void measured(Network carries) {
        network = Optional.of(carries);
    }

    /** The disks it last told of, also before this start of Granary. */
    Set<String> disks() {
        return disks;
    }

    /** @return whether they are others than before */
    boolean toldOf(Set<String> now) {
        boolean others = !now.equals(disks);
        disks = Set.copyOf(now);
        return others;
    }

    /** What it told of itself since Granary was started; empty until it did. */
    Optional<HostState> state() {
        return host.state();
    }
}
