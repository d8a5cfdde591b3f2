package app.granary.server.agent;

import app.granary.server.column.TextList;
import jakarta.persistence.Convert;
import jakarta.persistence.Entity;
import jakarta.persistence.Id;
import java.time.Instant;
import java.util.HexFormat;
import java.util.List;
import java.util.Set;
import java.util.UUID;

/** A computer that joined, across restarts. What it shows itself by is not kept, only the SHA-256 of it, in hexadecimal. */
@Entity
class AgentRow {
    @Id
    private UUID id;
    private String name;
    private String joinedBy;
    private String tokenDigest;
    private Instant since;
    private Instant heardAt;
    @Convert(converter = TextList.class)
    private List<String> disks;

    protected AgentRow() {
    }

    AgentRow(Agent agent) {
        this.id = agent.id();
        this.name = agent.name();
        this.joinedBy = agent.joinedBy();
        this.tokenDigest = HexFormat.of().formatHex(agent.tokenDigest());
        this.since = agent.since();
        this.heardAt = agent.heardAt();
        this.disks = List.copyOf(agent.disks());
    }

    Agent agent() {
        return new Agent(id, name, joinedBy, HexFormat.of().parseHex(tokenDigest), since, heardAt, Set.copyOf(disks));
    }

    UUID id() {
        return id;
    }

    void heard(Instant at) {
        heardAt = at;
    }

    /** Which disks it told of, so that it is known again when it joins anew. */
    void told(Set<String> of) {
        disks = of.stream().sorted().toList();
    }
}
