package app.granary.server.home;

/**
 * How many times as fast as the clock devices work: more than 1 only where they are made up. What is planned for a night is reckoned by the
 * clock.
 *
 * @param times 1 or more
 */
public record Pace(double times) {
    public static final Pace REAL = new Pace(1);
}
