package app.granary.server.rescue;

import app.granary.engine.site.Workbench;
import java.util.List;

/**
 * Which file onto which stick.
 *
 * @param where  the file lies, for people
 * @param liesOn serials of the disk the file lies on; empty when that says none
 * @param target as a person confirmed it
 */
record StickOrder(String fileId, String where, List<String> liesOn, Workbench.Confirmed target, String targetName) {
}
