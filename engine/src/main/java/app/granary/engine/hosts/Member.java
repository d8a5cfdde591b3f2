package app.granary.engine.hosts;

import app.granary.engine.host.Host;

/**
 * A computer that joined.
 *
 * @param id   among those that joined
 * @param name for people
 */
public record Member(String id, String name, Host host) {
}
