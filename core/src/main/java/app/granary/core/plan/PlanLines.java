package app.granary.core.plan;

import app.granary.core.measure.Sizes;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.stream.Collectors;

/** A plan as labelled lines of text, and what changed from one to the next. */
public final class PlanLines {
    private PlanLines() {
    }

    /** In the order in which a plan is read. */
    public static Map<String, String> of(Plan plan) {
        Map<String, String> out = new LinkedHashMap<>();
        out.put("Name", plan.name());
        out.put("Disk",
            plan.source().label() + " (" + plan.source().identity().model() + ", serial " + plan.source().identity().serial() + ")");
        out.put("Partitions", plan.source().without().isEmpty() ? "all" : "all but " + numbers(plan.source().without()));
        out.put("Compression", compression(plan.storing()));
        out.put("Blocks", plan.storing().allBlocks() ? "all, free ones too" : "used ones");
        out.put("Page files and swap", plan.storing().keepSwap() || plan.storing().allBlocks() ? "kept" : "left out");
        out.put("Parts",
            plan.storing().splitBytes().isPresent() ? "of " + Sizes.decimal(plan.storing().splitBytes().getAsLong()) : "one file");
        out.put("Encryption", plan.storing().encrypted() ? "with a passphrase" : "none");
        out.put("Drives",
            plan.destinations().isEmpty() ? "none"
                : plan.destinations().stream().map(PlanDestination::name).collect(Collectors.joining(", "))
                    + (plan.destinations().size() > 1
                        ? plan.inTurn() ? ", in turn" : ", whichever ends first" : ""));
        out.put("How often", plan.rhythm().words());
        out.put("When", plan.window().words());
        out.put("Started from", plan.booted() ? "rescue media" : "where it runs");
        out.put("Named", plan.naming().text());
        out.put("Folder", plan.folder().isNone() ? "as the office chose" : plan.folder().text());
        out.put("Checked again after", plan.recheckDays() + " days");
        out.put("Then", "the computer " + plan.afterwards().phrase());
        out.put("Mail to", plan.mailTo().isEmpty() ? "nobody" : String.join(", ", plan.mailTo()));
        out.put("Kept", plan.keep().words());
        out.put("Before the night", plan.checklist().isEmpty() ? "nothing" : String.join("; ", plan.checklist()));
        out.put("Note", plan.note().isEmpty() ? "none" : plan.note());
        return out;
    }

    static String compression(Storing storing) {
        return storing.codec().equals("none") ? "none, the raw disk" : storing.codec().equals("stored") ? "none" : storing.codec()
            + ", level " + storing.level();
    }

    static String numbers(java.util.Collection<Integer> numbers) {
        return numbers.stream().map(String::valueOf).collect(Collectors.joining(", "));
    }

    /** Each change in words; empty when nothing changed. */
    public static List<String> changes(Plan before, Plan after) {
        Map<String, String> then = of(before);
        List<String> out = new ArrayList<>();
        of(after).forEach((label, text) -> {
            if (!text.equals(then.get(label))) {
                out.add(label + ": " + then.get(label) + " became " + text);
            }
        });
        return out;
    }
}
