package app.granary.server.rescue;

import app.granary.engine.host.Overwriting;
import java.util.List;
import java.util.UUID;

/**
 * Which file onto which stick, or which stick into which file.
 *
 * @param where    the file lies, for people
 * @param liesOn   serials of the disk the file lies on; empty when that says none
 * @param target   as a person confirmed it; of a stick that is only read, what it is
 * @param kept     whether the stick is read into the file, and nothing of it is written
 * @param stickId  of the stick that is read; null otherwise
 * @param expected SHA-256 the file must have before it is written; null or empty where nobody knows
 */
record StickOrder(String fileId, String where, List<String> liesOn, Overwriting.Confirmed target, String targetName, boolean kept,
    UUID stickId, String expected) {
    static StickOrder writing(Overwriting.RawFile file, Overwriting.Confirmed target, String targetName, String expected) {
        return new StickOrder(file.id(), file.where(), file.liesOn().stream().filter(serial -> !serial.isBlank()).toList(), target,
            targetName, false, null, expected);
    }
}
