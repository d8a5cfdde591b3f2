package app.granary.core.night;

import app.granary.core.measure.Durations;
import app.granary.core.measure.Moments;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import java.util.stream.Stream;

/** Why one task does not fit, and the one change that would make it fit while every other row stays as it is. */
final class MisfitReasons {
    private static final long LONGEST_STAY_HOURS = 3;
    private static final long LONGEST_WINDOW_HOURS = 12;

    private final NightQuestion question;
    private final Board board;
    private final List<Night.Row> rows;
    private final int index;
    private final NightTask task;

    MisfitReasons(NightQuestion question, Board board, List<Night.Row> rows, int index) {
        this.question = question;
        this.board = board;
        this.rows = rows;
        this.index = index;
        this.task = question.tasks().get(index);
    }

    Night.Misfit misfit() {
        return new Night.Misfit(task, why(), help());
    }

    private String why() {
        if (task.windows().isEmpty()) {
            return task.name() + " has no window left that night.";
        }
        if (task.ways().isEmpty()) {
            return task.unfit();
        }
        if (!board.bootable(index)) {
            return task.name() + " must be booted from rescue media, and nobody is there for it within its window.";
        }
        if (task.pin().start().isPresent()) {
            return task.name()
                + " cannot run when it is pinned: what it needs is taken then, its window is closed, or nobody can boot it before. Pin "
                + "another time.";
        }
        double longestWindow = task.windows().stream()
            .mapToLong(w -> w.to().getEpochSecond() - Math.max(w.from().getEpochSecond(), question.begins().getEpochSecond())).max()
            .orElse(0);
        Way quickest = task.ways().stream().min(Comparator.comparingDouble(Way::highSeconds)).orElseThrow();
        String needs = task.name() + " needs " + Durations.range(quickest.lowSeconds(), quickest.highSeconds()) + " on "
            + name(quickest.driveId());
        if (quickest.highSeconds() > longestWindow) {
            return needs + ", and only " + Durations.length(Math.max(0, longestWindow)) + " of its window are left.";
        }
        if (task.ways().stream().allMatch(way -> roomAfter(way.driveId()) < way.highBytes())) {
            return needs + ", and the room there goes to the other images of the night.";
        }
        String others = String.join(", ",
            rows.stream().filter(row -> task.ways().stream().anyMatch(way -> sharesLink(way.driveId(), row.drive())))
                .map(row -> row.task().name()).distinct().toList());
        return needs + ", and what it needs is taken" + (others.isEmpty() ? "" : " by " + others) + " for most of its window.";
    }

    private boolean sharesLink(String driveId, NightDrive drive) {
        String link = question.drives().stream().filter(d -> d.id().equals(driveId)).map(NightDrive::link).findFirst().orElse("");
        return driveId.equals(drive.id()) || !link.isEmpty() && link.equals(drive.link());
    }

    private String name(String driveId) {
        return question.drives().stream().filter(d -> d.id().equals(driveId)).map(NightDrive::name).findFirst().orElse(driveId);
    }

    private long roomAfter(String driveId) {
        long room = question.drives().stream().filter(d -> d.id().equals(driveId)).mapToLong(NightDrive::roomBytes).sum();
        return room - rows.stream().filter(row -> row.drive().id().equals(driveId)).mapToLong(row -> row.way().highBytes()).sum();
    }

    private Optional<Help> help() {
        return Stream.<java.util.function.Supplier<Optional<Help>>>of(this::otherDrive, this::attachDrive, this::longerWindow,
            this::stayLonger, this::leaveOut)
            .map(java.util.function.Supplier::get).flatMap(Optional::stream).findFirst();
    }

    /** Where the task would lie if it were placed after all rows, with the question as changed. */
    private Optional<Night.Row> placed(NightTask changed, List<NightDrive> drives, List<Span> person, List<Night.Row> kept) {
        List<NightTask> all = new ArrayList<>(kept.stream().map(Night.Row::task).toList());
        all.add(changed);
        NightQuestion asked = new NightQuestion(question.begins(), all, drives, question.away(), person, question.perBoot(),
            question.lead(), question.zone());
        Board tried = new Board(asked);
        int mine = -1;
        for (int t = 0; t < asked.tasks().size(); t++) {
            String id = asked.tasks().get(t).id();
            int index = t;
            if (id.equals(changed.id())) {
                mine = t;
            } else {
                kept.stream().filter(row -> row.task().id().equals(id)).findFirst().ifPresent(row -> tried.hold(index, row));
            }
        }
        if (!tried.place(mine, -1)) {
            return Optional.empty();
        }
        Way way = changed.ways().get(tried.way(mine));
        Instant start = Instant.ofEpochSecond(tried.start(mine));
        Instant end = Instant.ofEpochSecond(tried.end(mine));
        return Optional.of(new Night.Row(changed, way, drives.get(tried.drive(mine)), Optional.empty(), start, end,
            start.plusSeconds(way.longest()), end, java.time.Duration.ZERO, 1, ""));
    }

    private String fits(Night.Row row) {
        return "It would fit on " + row.drive().name() + ", from " + time(row.start()) + " to about " + time(row.end());
    }

    private String time(Instant at) {
        return Moments.clock(at, question.zone());
    }

    private Optional<Help> otherDrive() {
        return task.otherWays().stream()
            .map(way -> placed(task.with(List.of(way), task.windows()), question.drives(), question.person(), rows))
            .flatMap(Optional::stream)
            .min(Comparator.comparing(Night.Row::end)).map(row -> new Help(Help.Kind.OTHER_DRIVE, row.drive().id(),
                fits(row) + "; its plan sends it elsewhere tonight."));
    }

    private Optional<Help> attachDrive() {
        for (Way way : task.awayWays()) {
            List<NightDrive> drives = Stream
                .concat(question.drives().stream(), question.away().stream().filter(d -> d.id().equals(way.driveId()))).toList();
            Optional<Night.Row> row = placed(task.with(List.of(way), task.windows()), drives, question.person(), rows);
            if (row.isPresent()) {
                return Optional.of(new Help(Help.Kind.ATTACH_DRIVE, way.driveId(), fits(row.get()) + ", were that drive attached."));
            }
        }
        return Optional.empty();
    }

    private Optional<Help> longerWindow() {
        if (task.windows().isEmpty() || task.ways().isEmpty()) {
            return Optional.empty();
        }
        List<Span> longer = task.windows().stream().map(w -> new Span(w.from(), w.to().plus(LONGEST_WINDOW_HOURS, ChronoUnit.HOURS)))
            .toList();
        return placed(task.with(task.ways(), longer), question.drives(), question.person(), rows)
            .map(row -> new Help(Help.Kind.LONGER_WINDOW, "",
                fits(row) + ", were its window open until " + time(row.latestEnd()) + "."));
    }

    private Optional<Help> stayLonger() {
        if (!task.needsPerson() || board.bootable(index) || task.ways().isEmpty() || task.windows().isEmpty()) {
            return Optional.empty();
        }
        // whoever leaves last stays; where nobody is there, someone comes when the window opens
        Instant opens = task.windows().get(0).from();
        Span there = question.person().isEmpty() ? new Span(opens.isAfter(question.begins()) ? opens : question.begins(), Instant.MAX)
            : question.person().get(question.person().size() - 1);
        Instant until = (question.person().isEmpty() ? there.from() : there.to()).plus(LONGEST_STAY_HOURS, ChronoUnit.HOURS);
        List<Span> longer = List.of(new Span(there.from(), until));
        return placed(task, question.drives(), longer, rows).map(row -> new Help(Help.Kind.STAY_LONGER, "",
            fits(row) + ", did someone boot it by " + time(row.start()) + "."));
    }

    private Optional<Help> leaveOut() {
        if (task.ways().isEmpty()) {
            return Optional.empty();
        }
        for (Night.Row other : rows.stream()
            .filter(row -> row.task().pin().start().isEmpty() && row.task().overdue().compareTo(task.overdue()) <= 0)
            .sorted(Comparator.comparing(row -> row.task().overdue())).toList()) {
            List<Night.Row> kept = rows.stream().filter(row -> row != other).toList();
            Optional<Night.Row> row = placed(task, question.drives(), question.person(), kept);
            if (row.isPresent()) {
                return Optional.of(new Help(Help.Kind.LEAVE_OUT, other.task().id(),
                    fits(row.get()) + ", were " + other.task().name() + " left out tonight."));
            }
        }
        return Optional.empty();
    }
}
