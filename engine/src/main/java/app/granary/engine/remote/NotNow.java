package app.granary.engine.remote;

import java.io.IOException;

/** The machine that has the folder cannot be reached for the moment. Nothing is known of what was asked; it may be asked again. */
public final class NotNow extends IOException {
    private static final long serialVersionUID = 1L;

    public NotNow(String machine) {
        super(machine + " cannot be reached now");
    }
}
