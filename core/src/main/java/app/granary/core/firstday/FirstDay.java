package app.granary.core.firstday;

import java.util.ArrayList;
import java.util.List;

/** The steps of a new office, in their order. Each is done by what is so, not by being ticked. */
public final class FirstDay {
    private FirstDay() {
    }

    /**
     * What is so.
     *
     * @param office       its name
     * @param hours        when it is open, in words
     * @param officeSaved  whether a person saved its name or its hours
     * @param drives       names of the drives at hand, Granary's own folder not among them
     * @param computers    on record, the one Granary runs on among them
     * @param disks        of those
     * @param images       whose files are at hand
     * @param cameBack     whether any of them was restored for practice, or a computer was started from it
     * @param plans        how many computers have a plan
     * @param mediaStarted how many rescue media are known to start a computer
     * @param twoPlaces    how many disks have proven images in two kinds of place
     */
    public record Facts(String office, String hours, boolean officeSaved, List<String> drives, int computers, int disks, int images,
        boolean cameBack, int plans, int mediaStarted, int twoPlaces) {
        public Facts {
            drives = List.copyOf(drives);
        }
    }

    /** What a step is about, which is also where it is done. */
    public enum Subject {
        OFFICE, DRIVE, COMPUTERS, IMAGE, PROOF, PLANS, RESCUE, PLACES;

        /** On the wire. */
        public String word() {
            return name().toLowerCase(java.util.Locale.ROOT);
        }
    }

    /**
     * @param title what to do, or what is so once it is done
     * @param text  how, or what was found
     */
    public record Step(Subject subject, boolean done, String title, String text) {
    }

    public static List<Step> of(Facts f) {
        List<Step> out = new ArrayList<>();
        out.add(f.officeSaved ? new Step(Subject.OFFICE, true, "The office has a name and hours", f.office + "; " + f.hours + ".")
            : new Step(Subject.OFFICE, false, "Name the office and its hours",
                "Nights are planned by its hours: a computer is booted from a stick while somebody is there."));
        out.add(!f.drives.isEmpty() ? new Step(Subject.DRIVE, true, "The first drive is here", String.join(", ", f.drives) + ".")
            : new Step(Subject.DRIVE, false, "Attach the first drive",
                "Any drive with room that is mounted, or a network folder. A blank one is prepared here."));
        out.add(f.computers > 1 ? new Step(Subject.COMPUTERS, true, "The computers are in",
            f.computers + " computers with " + f.disks + (f.disks == 1 ? " disk." : " disks."))
            : new Step(Subject.COMPUTERS, false, "Bring the computers in",
                "Start one from any Linux stick and let it join, import a report, or enter it by hand."));
        out.add(f.images > 0 ? new Step(Subject.IMAGE, true, "There is an image", f.images == 1 ? "One image." : f.images + " images.")
            : new Step(Subject.IMAGE, false, "Make the first image",
                "Granary says how big it becomes, where it fits and how long it takes, before it writes a byte."));
        out.add(f.cameBack ? new Step(Subject.PROOF, true, "An image came back",
            "It was restored for practice, or a computer started from it.")
            : new Step(Subject.PROOF, false, "See that it comes back",
                "A rehearsal restores it onto scratch and starts it; the picture of its screen is the evidence."));
        out.add(f.plans >= f.computers && f.plans > 0
            ? new Step(Subject.PLANS, true, "Every computer has a plan", f.plans + (f.plans == 1 ? " computer." : " computers."))
            : new Step(Subject.PLANS, false, "Give every computer a plan", f.plans == 0
                ? "How often, in which hours, to which drive, kept how long. Nothing repeats until you say so."
                : f.plans + " of " + f.computers + " have one."));
        out.add(f.mediaStarted > 0 ? new Step(Subject.RESCUE, true, "A rescue stick starts a computer",
            f.mediaStarted + (f.mediaStarted == 1 ? " medium has started one." : " media have each started one."))
            : new Step(Subject.RESCUE, false, "Make a rescue stick, and try it",
                "Write one, start a computer with it once, and note that it did. On a bad day it is what you reach for."));
        out.add(f.twoPlaces > 0 ? new Step(Subject.PLACES, true, "There is a second place",
            f.twoPlaces + (f.twoPlaces == 1 ? " disk has" : " disks have") + " proven images at hand and off site.")
            : new Step(Subject.PLACES, false, "A second place",
                "A drive that leaves the building each week. Until then a fire takes the computers and their images."));
        return out;
    }

    /** Whether an office is still new: it has no image, no plan for every computer, or no stick that starts one. */
    public static boolean leads(List<Step> steps) {
        return steps.stream().anyMatch(step -> !step.done
            && (step.subject == Subject.IMAGE || step.subject == Subject.PLANS || step.subject == Subject.RESCUE));
    }

    /** How far it is, and what that is worth. */
    public static String sentence(List<Step> steps) {
        long done = steps.stream().filter(Step::done).count();
        boolean comesBack = steps.stream().filter(step -> step.subject == Subject.IMAGE || step.subject == Subject.RESCUE)
            .allMatch(Step::done);
        return (done == steps.size() ? "All steps are done." : done + " of " + steps.size() + " steps are done.")
            + (comesBack ? " A computer of this office can die and be back."
                : " With an image and a stick that starts it, a computer of this office can die and be back.");
    }
}
