package app.granary.engine.codec;

import java.io.IOException;

/** A frame that does not decode; the message is a clause that says why. */
public final class BadFrameException extends IOException {
    private static final long serialVersionUID = 1L;

    public BadFrameException(String why) {
        super(why);
    }
}
