package app.granary.core.plan;

import java.util.ArrayList;
import java.util.List;

/** What to do before a computer is imaged (common practice, no source). */
public final class Checklist {
    private Checklist() {
    }

    /**
     * What is proposed for a new plan.
     *
     * @param encrypted  whether its disk is, so that a key is needed to get back in
     * @param controller whether it drives a machine, whose data lie apart
     */
    public static List<String> proposed(boolean encrypted, boolean controller) {
        List<String> out = new ArrayList<>(
            List.of("Files are backed up too; an image is no substitute for that", "Programs are closed", "The disk was checked for errors",
                "It is on the mains, and sleep is switched off"));
        if (encrypted) {
            out.add("The recovery key is at hand, and not on this disk");
        }
        if (controller) {
            out.add("The controller's own data are saved separately");
        }
        return List.copyOf(out);
    }
}
