package app.granary.core.machine;

import java.util.Optional;

/**
 * The machine a device is in.
 *
 * @param id   among those that joined; an empty string for the machine Granary runs on, and for everything in a made-up office
 * @param name for people
 * @param network between it and the office; empty when none was measured, or none is needed
 */
public record Machine(String id, String name, Optional<Network> network) {
    /** The one Granary runs on. */
    public static final Machine OFFICE = new Machine("", "Granary's own machine", Optional.empty());

    /** Whether both are one machine, whatever their network is found to carry. */
    public boolean is(Machine other) {
        return id.equals(other.id);
    }

    public boolean isOffice() {
        return id.isEmpty();
    }
}
