package app.granary.server.home;

/** Why Granary does not start on this home; its message is one or more sentences that say what to do. Nothing was changed. */
public final class StartRefused extends RuntimeException {
    private static final long serialVersionUID = 1L;

    public StartRefused(String sentence) {
        super(sentence);
    }

    public StartRefused(String sentence, Throwable cause) {
        super(sentence, cause);
    }
}
