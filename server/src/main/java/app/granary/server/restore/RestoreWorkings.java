package app.granary.server.restore;

import app.granary.core.layout.Placed;
import app.granary.core.layout.RestoreLayout;
import app.granary.core.measure.Reading;
import app.granary.core.measure.Sizes;
import app.granary.server.working.Working;
import app.granary.server.working.Working.Line;
import java.util.ArrayList;
import java.util.List;

/** How a layout's figures came about: every part of the target, and their sum. */
final class RestoreWorkings {
    private RestoreWorkings() {
    }

    static Working of(RestoreLayout layout) {
        List<Line> lines = new ArrayList<>();
        for (Placed each : layout.placed()) {
            lines.add(Line.size(each.to().label() + (each.moved() ? ", moved" : "")
                + (each.resized() ? ", was " + Sizes.decimal(each.from().sizeBytes()) : ""), each.to().sizeBytes()));
        }
        layout.added().forEach(each -> lines.add(Line.size(each.to().label() + ", new", each.to().sizeBytes())));
        lines.add(Line.size("the table, at both ends", layout.tableBytes()));
        lines.add(Line.size("alignment", layout.alignmentBytes()));
        lines.add(Line.size("unallocated", layout.unallocatedBytes()));
        lines.add(Line.size("the whole target", layout.target().sizeBytes()).asResult());
        return new Working("Where every byte goes", "partitions, table, alignment and the rest are the whole target", lines,
            List.of(
                "Unallocated are " + layout.unallocatedBytes() + " bytes: " + Sizes.format(layout.unallocatedBytes(), Reading.DECIMAL)
                    + " as on a label, " + Sizes.format(layout.unallocatedBytes(), Reading.BINARY)
                    + " as many systems show it.",
                "Partitions that move start on whole " + Sizes.format(layout.target().alignBytes(), Reading.BINARY)
                    + ", a rule of thumb."));
    }
}
