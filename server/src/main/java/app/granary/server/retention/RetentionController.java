package app.granary.server.retention;

import app.granary.core.measure.Sizes;
import app.granary.core.retention.RetentionDecision;
import app.granary.server.image.Images;
import java.time.Instant;
import java.util.List;
import java.util.TreeMap;
import java.util.UUID;
import java.util.stream.Collectors;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;

/** What would be kept and what would go. */
@RestController
@RequestMapping("/api/v1/retention")
class RetentionController {
    private final DryRuns dryRuns;

    RetentionController(DryRuns dryRuns) {
        this.dryRuns = dryRuns;
    }

    /**
     * @param proof strokes of its tally, 0 to 5
     * @param rule  the rule that decided, as a word
     * @param why   the same as a sentence with its figures
     */
    record KeptLine(UUID id, String name, Instant madeAt, String destination, long storedBytes, int proof, boolean damaged, boolean kept, String rule, String why) {
        static KeptLine from(DryRuns.Decided decided) {
            Images.Standings i = decided.image();
            RetentionDecision d = decided.decision();
            return new KeptLine(i.id(), i.name(), i.madeAt(), i.destination(), i.storedBytes(), i.standing().level().map(level -> level.ordinal() + 1).orElse(0), i.standing().damaged(), d.kept(),
                d.rule().word(), d.why());
        }
    }

    /** @param policies what its plans keep, as sentences */
    record DiskKept(String computer, String disk, String diskId, List<String> policies, List<KeptLine> images) {
    }

    /** What a destination would get back. */
    record GivenBack(String destination, int images, long bytes) {
    }

    record DryRun(String sentence, List<DiskKept> disks, List<GivenBack> back) {
    }

    @GetMapping
    DryRun dryRun() {
        List<DiskKept> disks = dryRuns.all().stream().map(d -> new DiskKept(d.computer(), d.disk(), d.diskId(), d.policies(), d.images().stream().map(KeptLine::from).toList())).toList();
        List<KeptLine> gone = disks.stream().flatMap(disk -> disk.images().stream()).filter(line -> !line.kept()).toList();
        List<GivenBack> back = gone.stream().collect(Collectors.groupingBy(KeptLine::destination, TreeMap::new, Collectors.toList())).entrySet().stream()
            .map(each -> new GivenBack(each.getKey(), each.getValue().size(), each.getValue().stream().mapToLong(KeptLine::storedBytes).sum())).toList();
        long all = disks.stream().mapToLong(disk -> disk.images().size()).sum();
        String sentence = all == 0 ? "There is no image yet to keep or release." : gone.isEmpty() ? "All " + all + " images stay." : gone.size() + " of " + all + " images could go, and would give back "
            + Sizes.decimal(gone.stream().mapToLong(KeptLine::storedBytes).sum()) + ".";
        return new DryRun(sentence, disks, back);
    }
}
