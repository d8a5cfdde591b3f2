package app.granary.server.queue;

import app.granary.core.fault.Fault;
import app.granary.engine.progress.Rest;
import java.io.IOException;
import org.springframework.stereotype.Component;

/** Work that went on at a computer that joined while Granary was away. */
@Component
class GoingOn {
    private static final long LOOK_MILLIS = 500;

    private final MachinesJoined machines;
    private final Orders orders;

    GoingOn(MachinesJoined machines, Orders orders) {
        this.machines = machines;
        this.orders = orders;
    }

    /** Whether one that was under way when Granary was ended may have gone on without it. */
    boolean may(RunRow run) {
        return !run.goesOnIn().isEmpty() && machines.mayBeHeardOf(run.goesOnIn()) && orders.known(run);
    }

    /**
     * Returns when the computer is here again with the devices it works on. A person who stops it meanwhile is heard there, then.
     *
     * @throws app.granary.core.fault.FaultException when it was sent away
     */
    void await(LiveRun running) throws IOException {
        RunRow run = running.row();
        while (!run.goesOnIn().equals(orders.machine(run))) {
            if (!machines.mayBeHeardOf(run.goesOnIn())) {
                throw Fault.of(Fault.Kind.DEVICE_FAILED, run.goesOnIn(), "The computer that did it was sent away before it told how "
                    + "it ended.").asException();
            }
            Rest.millis(LOOK_MILLIS);
        }
    }
}
