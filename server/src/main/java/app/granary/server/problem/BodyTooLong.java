package app.granary.server.problem;

import java.io.IOException;

/** More was sent than is taken in one request. */
final class BodyTooLong extends IOException {
    private static final long serialVersionUID = 1L;

    BodyTooLong(long most) {
        super("more than " + most + " bytes were sent");
    }
}
