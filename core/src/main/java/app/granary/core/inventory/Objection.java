package app.granary.core.inventory;

/**
 * Why a report cannot be accepted as it is.
 *
 * @param line     line of the report, from 1; 0 where there is none
 * @param sentence what is wrong and what to do
 */
public record Objection(int line, String sentence) {
}
