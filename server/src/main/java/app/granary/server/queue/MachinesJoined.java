package app.granary.server.queue;

/** Which other machines work for the office. */
public interface MachinesJoined {
    /** Whether a machine may be heard of still: it has joined, and was not sent away since. */
    boolean mayBeHeardOf(String machine);
}
