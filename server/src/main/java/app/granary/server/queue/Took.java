package app.granary.server.queue;

/**
 * How long a run's stages took, pauses included.
 *
 * @param capturingSeconds 0 for work without such a stage
 * @param checkingSeconds  of reading back; 0 for work without such a stage
 */
public record Took(double capturingSeconds, double checkingSeconds) {
    public static final Took NOTHING = new Took(0, 0);
}
