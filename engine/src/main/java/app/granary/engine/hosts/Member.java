package app.granary.engine.hosts;

import app.granary.core.machine.Machine;
import app.granary.engine.host.Host;

/**
 * A computer that joined.
 *
 * @param machine as devices in it say where they are
 */
public record Member(Machine machine, Host host) {
    /** Among those that joined. */
    public String id() {
        return machine.id();
    }

    /** For people. */
    public String name() {
        return machine.name();
    }
}
