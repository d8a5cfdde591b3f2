package app.granary.standins;

import java.io.IOException;
import java.util.List;

/** Faults that can be switched on where devices are made up. Safe for several threads. */
public interface Switchboard {
    /**
     * One thing that can go wrong.
     *
     * @param id      stable
     * @param subject the device it happens to
     * @param what    what happens, in words
     * @param on      whether it is happening; always false for what happens once
     * @param once    whether it happens once, instead of lasting until it is switched off
     */
    record Switch(String id, String subject, String what, boolean on, boolean once) {
    }

    /** All of them, in order of subject. */
    List<Switch> switches() throws IOException;

    /** @throws app.granary.core.fault.FaultException when there is no such switch, or nothing it could act on */
    void turn(String id, boolean on) throws IOException;
}
