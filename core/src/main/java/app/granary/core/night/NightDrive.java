package app.granary.core.night;

/**
 * A drive attached tonight, which takes one image at a time.
 *
 * @param roomBytes free above the reserve, less what is promised already; all images of the night together must fit
 * @param link      a name that drives on one shared link have in common, since two at once would only take twice as long each; empty when
 *                  it shares none
 */
public record NightDrive(String id, String name, long roomBytes, String link) {
}
