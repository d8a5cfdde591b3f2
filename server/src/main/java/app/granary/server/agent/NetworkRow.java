package app.granary.server.agent;

import app.granary.core.machine.Network;
import jakarta.persistence.Entity;
import jakarta.persistence.Id;
import java.time.Instant;
import java.util.UUID;

/** What the network to a computer carried when it was last here; nights are planned with it before the computer is. */
@Entity
class NetworkRow {
    @Id
    private UUID computerId;
    private long upBytes;
    private long downBytes;
    private Instant measuredAt;

    protected NetworkRow() {
    }

    NetworkRow(UUID computerId, Network network, Instant measuredAt) {
        this.computerId = computerId;
        this.upBytes = network.upBytes();
        this.downBytes = network.downBytes();
        this.measuredAt = measuredAt;
    }

    Network network() {
        return new Network(upBytes, downBytes);
    }
}
