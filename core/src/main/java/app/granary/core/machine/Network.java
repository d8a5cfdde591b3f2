package app.granary.core.machine;

/**
 * What the network between a computer and the office carries, as a real transfer measured it.
 *
 * @param upBytes   bytes a second from the computer to the office, more than 0
 * @param downBytes bytes a second from the office to the computer, more than 0
 */
public record Network(long upBytes, long downBytes) {
    public Network {
        if (upBytes <= 0 || downBytes <= 0) {
            throw new IllegalArgumentException("a network that carries nothing: " + upBytes + " up, " + downBytes + " down");
        }
    }
}
