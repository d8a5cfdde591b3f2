package app.granary.server.copy;

import com.fasterxml.jackson.annotation.JsonAlias;

/** @param toDestinationId where the copy is made */
record CopyOrder(@JsonAlias("otherId") String toDestinationId) {
}
