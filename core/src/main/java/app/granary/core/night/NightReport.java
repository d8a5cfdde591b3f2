package app.granary.core.night;

import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import java.util.stream.IntStream;
import org.apache.commons.statistics.distribution.NormalDistribution;

/** Reads a filled board: each row with what made it start then and how sure its end is, each misfit with its reason and help. */
final class NightReport {
    /** Nineteen times in twenty (NIST/SEMATECH e-Handbook, 1.3.6.7.1). */
    private static final double LATE = 1.645;
    private static final NormalDistribution NORMAL = NormalDistribution.of(0, 1);

    private final NightQuestion question;
    private final List<NightTask> tasks;
    private final Board board;
    private final double[] variance;

    NightReport(NightQuestion question, Board board) {
        this.question = question;
        this.tasks = question.tasks();
        this.board = board;
        this.variance = new double[tasks.size()];
    }

    Night night() {
        List<Integer> placed = IntStream.range(0, tasks.size()).filter(board::placed).boxed()
            .sorted(Comparator.comparingLong((Integer t) -> board.start(t)).thenComparing(t -> tasks.get(t).id())).toList();
        List<Night.Row> rows = new ArrayList<>();
        for (int task : placed) {
            rows.add(row(task, placed));
        }
        List<Night.Misfit> misfits = IntStream.range(0, tasks.size()).filter(t -> !board.placed(t)).boxed()
            .sorted(Comparator.comparing(t -> tasks.get(t).name())).map(t -> new MisfitReasons(question, board, rows, t).misfit()).toList();
        return new Night(rows, misfits);
    }

    private Night.Row row(int t, List<Integer> placed) {
        NightTask task = tasks.get(t);
        Way way = task.ways().get(board.way(t));
        Optional<Integer> before = placed.stream()
            .filter(other -> other != t && board.end(other) == board.start(t)
                && (board.sharesDriveOrLink(other, t) || board.sharesComputer(other, t)))
            .max(Comparator.comparingDouble(other -> variance[other]));
        variance[t] = way.variance() + before.map(other -> variance[other]).orElse(0.0);
        double deviation = Math.sqrt(variance[t]);
        long left = board.windowEnd(t) - board.end(t);
        double chance = deviation == 0 ? 1 : NORMAL.cumulativeProbability(left / deviation);
        Optional<Instant> boot = board.boot(t) < 0 ? Optional.empty() : Optional.of(Instant.ofEpochSecond(board.boot(t)));
        return new Night.Row(task, way, question.drives().get(board.drive(t)), boot, Instant.ofEpochSecond(board.start(t)),
            Instant.ofEpochSecond(board.end(t)),
            Instant.ofEpochSecond(board.end(t) + Math.round(LATE * deviation)), Instant.ofEpochSecond(board.windowEnd(t)),
            Duration.ofSeconds(left), chance, because(t, before));
    }

    private String because(int t, Optional<Integer> before) {
        NightTask task = tasks.get(t);
        if (task.pin().start().isPresent()) {
            return "It is pinned to that time.";
        }
        if (before.isPresent()) {
            NightTask other = tasks.get(before.get());
            String what = board.sharesComputer(before.get(), t) ? "its computer is" : board.drive(before.get()) == board.drive(t)
                ? question.drives().get(board.drive(t)).name() + " is" : "the link it shares is";
            return "It starts when " + other.name() + " has ended; " + what + " taken until then.";
        }
        boolean opens = task.windows().stream().anyMatch(w -> w.from().getEpochSecond() == board.start(t));
        if (opens) {
            return "It starts when its window opens.";
        }
        if (board.boot(t) >= 0 && board.boot(t) + question.perBoot().toSeconds() == board.start(t)) {
            return "It starts as soon as a person has booted its computer.";
        }
        return board.start(t) == question.begins().getEpochSecond() ? "It starts at once."
            : "It starts as soon as everything it needs is free.";
    }
}
