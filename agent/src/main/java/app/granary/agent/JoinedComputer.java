package app.granary.agent;

import app.granary.core.agent.JoinCode;
import app.granary.core.machine.Network;
import app.granary.engine.host.Host;
import app.granary.engine.host.RemoteFolders;
import java.io.IOException;
import java.net.URI;
import java.time.Clock;
import java.util.Optional;
import java.util.function.Consumer;

/** A computer that joins an office with devices of its caller's, and does its work as any other that joins. */
public final class JoinedComputer {
    /** Who has the devices. */
    public interface Owner {
        /** @param lent what the office lends while work is done */
        Host host(RemoteFolders lent) throws IOException;
    }

    private final URI office;
    private final JoinCode code;
    private final Optional<Network> network;
    private final Clock clock;

    /**
     * @param office  its address for agents
     * @param network what the network carries; empty to measure it
     */
    public JoinedComputer(URI office, JoinCode code, Optional<Network> network, Clock clock) {
        this.office = office;
        this.code = code;
        this.network = network;
        this.clock = clock;
    }

    /**
     * Returns when the office sends it away, or knows it no more.
     *
     * @param words told, in sentences, what happens to the line
     * @throws app.granary.core.fault.FaultException when the office does not let it in
     */
    public void stay(Owner owner, Consumer<String> words) throws IOException, InterruptedException {
        LentFolders lent = new LentFolders();
        try (Machine machine = Machine.of(owner.host(lent))) {
            Office joined = Office.join(office, code, machine.name(), clock);
            lent.from(joined);
            words.accept(joined.welcome());
            new Line(joined, machine, network, words::accept).stay();
        }
    }
}
