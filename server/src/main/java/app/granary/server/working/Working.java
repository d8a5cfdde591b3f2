package app.granary.server.working;

import io.swagger.v3.oas.annotations.media.Schema;
import java.util.List;
import java.util.OptionalLong;

/**
 * How a figure came about, as the margin shows it. The browser adds nothing.
 *
 * @param title     the figure, in words
 * @param subtitle  what it is
 * @param lines     inputs and steps, top to bottom
 * @param sentences the reasoning, and where the rule comes from
 */
public record Working(String title, String subtitle, List<Line> lines, List<String> sentences) {
    public Working {
        lines = List.copyOf(lines);
        sentences = List.copyOf(sentences);
    }

    /**
     * One step.
     *
     * @param bytes  a size, shown in the reading the person chose; null when the line is text
     * @param text   the value when it is no size; empty when it is
     * @param strong whether it is a result
     */
    public record Line(String label, @Schema(types = {
        "integer", "null"}) Long bytes, String text, boolean strong){
        public static Line size(String label, long bytes) {
            return new Line(label, bytes, "", false);
        }

        public static Line text(String label, String text) {
            return new Line(label, null, text, false);
        }

        public Line asResult() {
            return new Line(label, bytes, text, true);
        }
    }

    /** Null for the wire where core says empty. */
    public static Long orNull(OptionalLong value) {
        return value.isPresent() ? value.getAsLong() : null;
    }
}
