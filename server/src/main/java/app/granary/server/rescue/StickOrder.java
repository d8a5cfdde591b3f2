package app.granary.server.rescue;

import app.granary.engine.host.Overwriting;
import java.util.List;

/**
 * Which file onto which stick.
 *
 * @param where    the file lies, for people
 * @param liesOn   serials of the disk the file lies on; empty when that says none
 * @param target   as a person confirmed it
 * @param expected SHA-256 the file must have before it is written; null or empty where nobody knows
 */
record StickOrder(String fileId, String where, List<String> liesOn, Overwriting.Confirmed target, String targetName, String expected) {
}
