package app.granary.server.destination;

import java.util.Optional;

/** The office's computers by name and by id, as whoever keeps them tells it. */
public interface ComputerNames {
    /** Of one in use, case not counted; empty when there is none of that name. */
    Optional<String> id(String name);

    /** Also of one that is not in use any more; empty when there never was one. */
    Optional<String> name(String id);
}
