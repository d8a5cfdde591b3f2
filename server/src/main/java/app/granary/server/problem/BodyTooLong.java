package app.granary.server.problem;

import java.io.IOException;

/** More was sent than is taken in one request. */
public final class BodyTooLong extends IOException {
    private static final long serialVersionUID = 1L;

    public BodyTooLong(long most) {
        super("more than " + most + " bytes were sent");
    }
}
