package app.granary.core.today;

import app.granary.core.cover.Cover;
import app.granary.core.reconciliation.Difference;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import java.util.function.Predicate;
import java.util.stream.Collectors;

/** What needs a person, in order of consequence: what may be lost, what failed, what is late, what will be late, what is to be carried. */
public final class Todos {
    private static final Duration COPY_STANDS = Duration.ofHours(50);
    /** Files that were saved longer ago than this are told of (common practice, no source). */
    private static final int FILES_STAND_DAYS = 31;

    private final TodayFacts facts;
    private final List<Todo> out = new ArrayList<>();

    private Todos(TodayFacts facts) {
        this.facts = facts;
    }

    /** The first matters most. */
    public static List<Todo> of(TodayFacts facts) {
        Todos todos = new Todos(facts);
        todos.journal();
        todos.unsigned();
        todos.damaged();
        todos.differences(kind -> kind == Difference.Kind.MISSING);
        todos.uncovered();
        todos.unfinished();
        todos.troubles();
        todos.late();
        facts.unreleased().forEach(each -> todos.add(Todo.of(Todo.Kind.RELEASE, each.imageName() + " could not be released", each.trouble())
            .doing(Todo.Deed.RELEASE_AGAIN, "Try again")));
        todos.differences(kind -> kind != Difference.Kind.MISSING);
        todos.out.addAll(Rotation.of(facts.drives(), facts.now()));
        todos.places();
        facts.media().forEach(each -> todos.add(Todo.of(Todo.Kind.MEDIUM, each.name() + " is to be tried", each.why())));
        todos.silent();
        todos.files();
        todos.databaseCopy();
        return List.copyOf(todos.out);
    }

    /** The page in one sentence. */
    public static String sentence(List<Todo> todos, List<TodayFacts.Disk> disks) {
        long covered = disks.stream()
            .filter(each -> each.state() != Cover.State.LATE && each.state() != Cover.State.UNPROVEN && each.state() != Cover.State.NEVER)
            .count();
        long tonight = disks.stream().filter(TodayFacts.Disk::dueTonight).count();
        String needs = todos.isEmpty() ? "Nothing needs you. "
            : todos.size() == 1 ? "One thing needs you. " : todos.size() + " things need you. ";
        return needs + covered + " of " + disks.size() + " disks covered; " + tonight + " due tonight.";
    }

    private void add(Todo todo) {
        out.add(todo);
    }

    private void silent() {
        for (TodayFacts.Silent each : facts.silent()) {
            long hours = Duration.between(each.heardAt(), facts.now()).toHours();
            add(Todo.of(Todo.Kind.SILENT, each.name() + " is silent",
                "Its agent has not answered for " + hours
                + " h. What it was making lies unfinished on its drive, or on one of the office. Look at the computer and its cable, or "
                    + "send it away on the Computers page."));
        }
    }

    private void journal() {
        facts.journalMissing().ifPresent(what -> add(Todo.of(Todo.Kind.JOURNAL, "The journal lost lines",
            what + " Look through the drives, and compare with the copies of the database.")));
        facts.journalFailing().ifPresent(why -> add(
            Todo.of(Todo.Kind.JOURNAL, "The end of the journal cannot be noted", why + " Lines lost now would go unnoticed.")));
    }

    private void unsigned() {
        facts.unsigned().forEach(each -> add(Todo.of(Todo.Kind.RESTORE,
            each.failed() ? each.computer() + " is not back yet" : each.computer() + " waits to be signed", each.failed() ? each.outcome()
                : each.imageName() + " was written onto " + each.target()
                    + " and compared. Look at it, tick what you looked at, and sign.")));
    }

    private void damaged() {
        facts.damaged().forEach(each -> {
            Todo todo = Todo.of(Todo.Kind.DAMAGED, each.name() + " on " + each.destination() + " is damaged",
                "Its last check found damage. " + each.way().sentence()).about(each.copyId());
            add(switch (each.way().kind()) {
                case REPAIR -> todo.doing(Todo.Deed.REPAIR, "Repair it from the copy", each.copyId(), each.way().soundCopyId());
                case RELEASE -> todo.doing(Todo.Deed.RELEASE, "Release it", each.imageId());
                case CAPTURE -> todo;
            });
        });
    }

    private void differences(Predicate<Difference.Kind> kinds) {
        facts.differences().stream().filter(each -> kinds.test(each.kind())).forEach(each -> add(switch (each.kind()) {
            case MISSING -> Todo.of(Todo.Kind.MISSING, each.title(), each.sentence()).about(each.driveId())
                .doing(Todo.Deed.WRITE_OFF, each.names().size() == 1 ? "It is gone for good" : "They are gone for good",
                    facts.missingOn().getOrDefault(each.driveId(), List.of()));
            case UNKNOWN_IMAGES -> Todo.of(Todo.Kind.UNKNOWN, each.title(), each.sentence()).about(each.driveId());
            case UNKNOWN_IN_TRASH -> Todo.of(Todo.Kind.TRASH, each.title(), each.sentence()).about(each.driveId());
        }));
    }

    /** What is being made is not asked for. */
    private List<TodayFacts.Disk> idle(Cover.State state) {
        return facts.disks().stream().filter(each -> each.state() == state && !facts.capturing().contains(each.id())).toList();
    }

    private void uncovered() {
        idle(Cover.State.NEVER).stream().filter(each -> !each.planned())
            .forEach(each -> add(Todo.of(Todo.Kind.NEVER, each.computer() + " " + each.name() + " has no image",
                "No plan makes one either. Make a plan, or an image by hand.").about(each.computerId())));
        idle(Cover.State.UNPROVEN).forEach(each -> add(Todo
            .of(Todo.Kind.UNPROVEN, "No image of " + each.computer() + " " + each.name() + " is proven",
                "Nobody knows whether it would come back. Check the newest; its drive must be attached.")
            .about(each.id()).doing(Todo.Deed.CHECK_DISK, "Check it now", each.id())));
    }

    private void unfinished() {
        facts.unfinished().forEach(
            each -> add(Todo.of(Todo.Kind.UNFINISHED, (each.disk().isEmpty() ? "" : each.disk() + ": ") + each.name() + " is not finished",
                (each.why().isEmpty() ? "A capture did not come to its end." : each.why()) + " "
                    + (each.carryable() ? Math.round(each.doneShare() * 100) + " % of the disk is there."
                        : "It cannot be carried on, only discarded."))));
    }

    /** One whose work can be carried on is told of with that. */
    private void troubles() {
        facts.troubles().stream().filter(run -> facts.unfinished().stream().noneMatch(each -> each.name().equals(run.imageName())))
            .forEach(run -> add(run.waits()
                ? Todo.of(Todo.Kind.WAITING, run.subject() + " waits for its passphrase", run.outcome())
                : Todo.of(Todo.Kind.FAILED, run.subject() + ": the " + run.kind() + " failed", run.outcome()).doing(Todo.Deed.SEEN,
                    "I have seen it", run.runId())));
    }

    private void late() {
        idle(Cover.State.LATE)
            .forEach(each -> add(Todo.of(Todo.Kind.OVERDUE, each.computer() + " " + each.name() + " is late", capital(each.words())
                + ". It needs a person to boot it, and a drive; the night's plan says when.").about(each.id())));
    }

    private static String capital(String words) {
        return words.substring(0, 1).toUpperCase(Locale.ROOT) + words.substring(1);
    }

    private void places() {
        Map<String, List<TodayFacts.Disk>> missing = facts.disks().stream().filter(each -> !each.places().isEmpty())
            .collect(Collectors.groupingBy(TodayFacts.Disk::places, TreeMap::new, Collectors.toList()));
        missing.forEach((what, disks) -> add(
            Todo.of(Todo.Kind.PLACES, (disks.size() == 1 ? "One disk lies" : disks.size() + " disks lie") + " in too few places",
                disks.stream().map(TodayFacts.Disk::computer).distinct().collect(Collectors.joining(", ")) + ": " + what + ".")));
    }

    private void files() {
        LocalDate oldest = LocalDate.ofInstant(facts.now(), ZoneOffset.UTC).minusDays(FILES_STAND_DAYS);
        List<TodayFacts.Computer> old = facts.computers().stream()
            .filter(computer -> computer.filesSaved().map(on -> on.isBefore(oldest)).orElse(true)).toList();
        if (!old.isEmpty()) {
            add(Todo
                .of(Todo.Kind.FILES, "Files of " + (old.size() == 1 ? old.get(0).name() : old.size() + " computers") + " may not be saved",
                    old.stream().map(TodayFacts.Computer::name)
                        .collect(Collectors.joining(", ")) + ": nobody noted a file backup within " + FILES_STAND_DAYS
                        + " days. An image does not replace one.")
                .about(old.get(0).id())
                .doing(Todo.Deed.FILES_SAVED, "Backed up today", old.stream().map(TodayFacts.Computer::id).toList()));
        }
    }

    private void databaseCopy() {
        Optional<Instant> newest = facts.databaseCopied();
        if (newest.isEmpty() || newest.get().plus(COPY_STANDS).isBefore(facts.now())) {
            add(Todo.of(Todo.Kind.COPY, "Granary's own database has no recent copy",
                newest.map(at -> "The newest is " + Duration.between(at, facts.now()).toDays() + " days old.").orElse("There is none yet.")
                    + " It is copied every night; a copy can be made now.")
                .doing(Todo.Deed.COPY_DATABASE, "Copy it now"));
        }
    }
}
