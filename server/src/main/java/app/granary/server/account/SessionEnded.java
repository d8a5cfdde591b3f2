package app.granary.server.account;

/** A person signed out; what was open in that session ends. */
public record SessionEnded(String sessionId) {
}
