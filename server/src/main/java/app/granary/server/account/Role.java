package app.granary.server.account;

/** What an account may do. */
public enum Role {
    /** Looks at everything, changes nothing. */
    VIEWER,
    /** Does the work. */
    TECHNICIAN;

    public String word() {
        return name().toLowerCase(java.util.Locale.ROOT);
    }
}
