package app.granary.core.plan;

import app.granary.core.measure.Sizes;
import app.granary.core.retention.Keep;
import app.granary.core.retention.RetentionPolicy;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Set;
import java.util.stream.Collectors;

/**
 * A plan read back before it is saved.
 *
 * @param sentence all of it, in words
 * @param problems what is wrong; the refused ones first
 */
public record PlanReview(String sentence, List<PlanProblem> problems) {
    private static final int LONGEST_NAME = 100;
    private static final int LONGEST_LINE = 200;
    private static final int MOST_LINES = 30;
    private static final int LONGEST_STALE_DAYS = 3650;
    /** Parts shorter than this make thousands of files of an ordinary disk. */
    private static final long SHORTEST_PART = 16_000_000L;

    public PlanReview {
        problems = List.copyOf(problems);
    }

    public boolean refused() {
        return problems.stream().anyMatch(PlanProblem::refused);
    }

    /** @param example the moment the example of its naming is for */
    public static PlanReview of(Plan plan, Instant example) {
        List<PlanProblem> problems = new ArrayList<>();
        refusals(plan, problems);
        warnings(plan, problems);
        return new PlanReview(sentence(plan, example), problems);
    }

    private static String sentence(Plan plan, Instant example) {
        Storing storing = plan.storing();
        String disk = plan.source().computer() + "'s " + plan.source().disk() + " (" + plan.source().identity().inWords() + ")";
        StringBuilder out = new StringBuilder(capital(plan.rhythm().words())).append(", ").append(plan.window().words()).append(", ");
        out.append(plan.booted() ? "booted from rescue media by a person, " : "").append(disk).append(" is read: ")
            .append(storing.allBlocks() ? "all blocks" : "used blocks");
        out.append(plan.source().without().isEmpty() ? " of every partition"
            : " of every partition but " + PlanLines.numbers(plan.source().without()));
        out.append(storing.allBlocks() || storing.keepSwap() ? ". " : ", page files and swap left out. ");
        out.append("It is stored ")
            .append(storing.codec().equals("none") ? "as the raw disk" : storing.codec().equals("stored") ? "without compression"
                : "compressed with " + PlanLines.compression(storing));
        out.append(storing.splitBytes().isPresent() ? ", in parts of " + Sizes.decimal(storing.splitBytes().getAsLong()) : ", as one file");
        out.append(storing.encrypted() ? ", encrypted with a passphrase" : ", not encrypted");
        out.append(", on ").append(drives(plan)).append(", as ")
            .append(plan.naming().name(plan.source().computer(), plan.source().disk(), example))
            .append(plan.folder().isNone() ? "" : ", in the folder " + plan.folder().text()).append(". ");
        out.append("Every frame is read back, and again after ").append(plan.recheckDays()).append(" days. ");
        out.append("The computer ").append(plan.afterwards().phrase())
            .append(plan.mailTo().isEmpty() ? "; nobody is mailed. " : "; " + String.join(", ", plan.mailTo())
                + (plan.mailTo().size() == 1 ? " is" : " are") + " mailed. ");
        return out.append("Kept: ").append(plan.keep().words()).append(". Nothing is erased or overwritten.").toString();
    }

    private static String drives(Plan plan) {
        if (plan.destinations().isEmpty()) {
            return "no drive yet";
        }
        String names = plan.destinations().stream().map(PlanDestination::name)
            .collect(Collectors.joining(plan.inTurn() ? " and " : " or "));
        return plan.destinations().size() == 1 ? names : names + (plan.inTurn() ? " in turn" : ", whichever ends first");
    }

    private static String capital(String text) {
        return text.substring(0, 1).toUpperCase(Locale.ROOT) + text.substring(1);
    }

    private static void refusals(Plan plan, List<PlanProblem> out) {
        if (plan.name().isBlank() || plan.name().length() > LONGEST_NAME) {
            out.add(new PlanProblem("name", true, "A plan needs a name of at most " + LONGEST_NAME + " characters."));
        }
        if (plan.destinations().isEmpty()) {
            out.add(new PlanProblem("destinations", true, "No drive is chosen. Choose at least one the image may go to."));
        }
        Set<String> seen = new HashSet<>();
        if (!plan.destinations().stream().allMatch(each -> seen.add(each.id()))) {
            out.add(new PlanProblem("destinations", true, "A drive is named twice. Name each once."));
        }
        if (plan.storing().splitBytes().isPresent() && plan.storing().splitBytes().getAsLong() < SHORTEST_PART) {
            out.add(new PlanProblem("splitBytes", true,
                "Parts of less than " + Sizes.decimal(SHORTEST_PART) + " would be thousands of files. Choose longer ones, or one file."));
        }
        if (plan.recheckDays() < 1 || plan.recheckDays() > LONGEST_STALE_DAYS) {
            out.add(new PlanProblem("recheckDays", true,
                "An image is checked again after 1 to " + LONGEST_STALE_DAYS + " days. Choose a number in between."));
        }
        if (!plan.keep().inRange()) {
            out.add(new PlanProblem("keep", true, "Keep 0 to " + Keep.MOST + " of each, where 0 of all keeps every image; 0 to "
                + RetentionPolicy.MOST_DAYS + " days, the most not below the least; and at least one proven."));
        }
        for (String address : plan.mailTo()) {
            if (!MailAddress.isOne(address)) {
                out.add(new PlanProblem("mailTo", true, MailAddress.refusal(address)));
            }
        }
        if (plan.checklist().size() > MOST_LINES
            || plan.checklist().stream().anyMatch(line -> line.isBlank() || line.length() > LONGEST_LINE)) {
            out.add(new PlanProblem("checklist", true,
                "The checklist takes at most " + MOST_LINES + " lines of 1 to " + LONGEST_LINE + " characters."));
        }
    }

    private static void warnings(Plan plan, List<PlanProblem> out) {
        if (plan.destinations().size() == 1) {
            out.add(new PlanProblem("destinations", false, "All images go to " + plan.destinations().get(0).name()
                + ". Two drives in two places outlive one; add another when there is one."));
        }
        if (!plan.source().without().isEmpty()) {
            out.add(new PlanProblem("without", false, "Partition " + PlanLines.numbers(plan.source().without())
                + " is not in the image. The small ones are what makes a system start again."));
        }
        if (plan.storing().encrypted()) {
            out.add(new PlanProblem("encrypted", false,
                "The passphrase is kept nowhere. Write it down and keep it apart from the drives; without it the image is lost."));
        }
        if (plan.keep().inRange() && !plan.keep().asOffice() && !plan.keep().policy().releases() && plan.rhythm().longestGapDays() > 0) {
            out.add(new PlanProblem("keep", false, "Every image is kept, so the drives fill. Say how many should stay."));
        }
        if (!plan.booted()) {
            out.add(new PlanProblem("booted", false, "A disk that is in use is not imaged. Choose this only when nothing runs from it."));
        }
    }
}
