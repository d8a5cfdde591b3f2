package app.granary.server.rescue;

import app.granary.engine.host.Overwriting;
import java.util.List;

/**
 * Which file onto which stick.
 *
 * @param where  the file lies, for people
 * @param liesOn serials of the disk the file lies on; empty when that says none
 * @param target as a person confirmed it
 */
record StickOrder(String fileId, String where, List<String> liesOn, Overwriting.Confirmed target, String targetName) {
}
