package app.granary.core.night;

import java.util.Arrays;
import java.util.HashMap;
import java.util.List;
import java.util.Map;

/**
 * A night as it fills: tasks are placed one after the other, each as early as what is taken already allows, on the drive where it ends
 * first. All times are seconds since 1970.
 */
final class Board {
    private static final long NEVER = Long.MAX_VALUE;

    private final NightQuestion question;
    private final List<NightTask> tasks;
    private final long begins;
    private final long perBoot;
    private final long lead;
    private final Timetable[] drives;
    private final Timetable[] links;
    private final int[] linkOfDrive;
    private final long[] room;
    private final Timetable[] computers;
    private final int[] computerOfTask;
    private final long[] ready;
    private final Timetable person = new Timetable();
    private final int[][] driveOfWay;
    private final long[][] windows;

    /** Of each task placed: its start, the way it takes, the boot it asked for or {@link #NEVER}, the end of its window. */
    private final long[] start;
    private final int[] way;
    private final long[] boot;
    private final long[] windowEnd;
    private long spent;

    Board(NightQuestion question) {
        this.question = question;
        tasks = question.tasks();
        begins = question.begins().getEpochSecond();
        perBoot = Math.max(1, question.perBoot().toSeconds());
        lead = question.lead().toSeconds();
        drives = timetables(question.drives().size());
        Map<String, Integer> driveIndex = new HashMap<>();
        Map<String, Integer> linkIndex = new HashMap<>();
        linkOfDrive = new int[drives.length];
        for (int d = 0; d < drives.length; d++) {
            NightDrive drive = question.drives().get(d);
            driveIndex.put(drive.id(), d);
            // a drive that shares no link has one of its own
            linkOfDrive[d] = linkIndex.computeIfAbsent(drive.link().isEmpty() ? "\0" + drive.id() : drive.link(), name -> linkIndex.size());
        }
        links = timetables(linkIndex.size());
        room = new long[drives.length];
        Map<String, Integer> computerIndex = new HashMap<>();
        computerOfTask = new int[tasks.size()];
        driveOfWay = new int[tasks.size()][];
        windows = new long[tasks.size()][];
        for (int t = 0; t < tasks.size(); t++) {
            NightTask task = tasks.get(t);
            computerOfTask[t] = computerIndex.computeIfAbsent(task.computer(), name -> computerIndex.size());
            driveOfWay[t] = task.ways().stream().mapToInt(each -> driveIndex.getOrDefault(each.driveId(), -1)).toArray();
            windows[t] = task.windows().stream()
                .flatMapToLong(w -> java.util.stream.LongStream.of(w.from().getEpochSecond(), w.to().getEpochSecond())).toArray();
        }
        computers = timetables(computerIndex.size());
        ready = new long[computers.length];
        start = new long[tasks.size()];
        way = new int[tasks.size()];
        boot = new long[tasks.size()];
        windowEnd = new long[tasks.size()];
        clear();
    }

    private static Timetable[] timetables(int count) {
        Timetable[] out = new Timetable[count];
        Arrays.setAll(out, i -> new Timetable());
        return out;
    }

    void clear() {
        for (Timetable[] each : List.of(drives, links, computers)) {
            for (Timetable timetable : each) {
                timetable.clear();
            }
        }
        person.clear();
        Arrays.fill(ready, NEVER);
        Arrays.fill(way, -1);
        Arrays.fill(boot, NEVER);
        for (int d = 0; d < room.length; d++) {
            room[d] = question.drives().get(d).roomBytes();
        }
    }

    boolean placed(int task) {
        return way[task] >= 0;
    }

    long start(int task) {
        return start[task];
    }

    long end(int task) {
        return start[task] + tasks.get(task).ways().get(way[task]).length();
    }

    int way(int task) {
        return way[task];
    }

    int drive(int task) {
        return driveOfWay[task][way[task]];
    }

    boolean sharesDriveOrLink(int a, int b) {
        return linkOfDrive[drive(a)] == linkOfDrive[drive(b)];
    }

    boolean sharesComputer(int a, int b) {
        return computerOfTask[a] == computerOfTask[b];
    }

    /** @return when it is booted for this task, or -1 when it is not */
    long boot(int task) {
        return boot[task] == NEVER ? -1 : boot[task];
    }

    long windowEnd(int task) {
        return windowEnd[task];
    }

    /** How many ways were weighed in all, the measure of work done. */
    long spent() {
        return spent;
    }

    /**
     * Places a task if it can be.
     *
     * @param only index of the one way allowed, or -1 for any
     */
    boolean place(int task, int only) {
        NightTask wanted = tasks.get(task);
        long fixed = wanted.pin().start().map(java.time.Instant::getEpochSecond).orElse(-1L);
        long[] spans = windows[task];
        for (int w = 0; w < spans.length; w += 2) {
            long from = Math.max(begins, spans[w]);
            long booting = NEVER;
            if (wanted.needsPerson()) {
                if (ready[computerOfTask[task]] == NEVER) {
                    booting = bootSlot(Math.max(begins, spans[w] - lead));
                    if (booting == NEVER) {
                        continue;
                    }
                    from = Math.max(from, booting + perBoot);
                } else {
                    from = Math.max(from, ready[computerOfTask[task]]);
                }
            }
            if (fixed >= 0) {
                if (fixed < from) {
                    continue;
                }
                from = fixed;
            }
            if (placeFrom(task, only, from, spans[w + 1], fixed)) {
                boot[task] = booting;
                if (booting != NEVER) {
                    person.take(booting, booting + perBoot);
                    ready[computerOfTask[task]] = booting + perBoot;
                }
                return true;
            }
        }
        return false;
    }

    /** Puts a row of another night where it was, boot and all, whether or not it would be placed there now. */
    void hold(int task, Night.Row row) {
        int index = tasks.get(task).ways().indexOf(row.way());
        int computer = computerOfTask[task];
        row.bootAt().ifPresent(at -> {
            boot[task] = at.getEpochSecond();
            person.take(boot[task], boot[task] + perBoot);
            ready[computer] = boot[task] + perBoot;
        });
        take(task, index, row.start().getEpochSecond(), row.windowEnd().getEpochSecond());
    }

    private void take(int task, int index, long from, long until) {
        Way taken = tasks.get(task).ways().get(index);
        int drive = driveOfWay[task][index];
        start[task] = from;
        way[task] = index;
        windowEnd[task] = until;
        drives[drive].take(from, from + taken.length());
        links[linkOfDrive[drive]].take(from, from + taken.length());
        computers[computerOfTask[task]].take(from, from + taken.length());
        room[drive] -= taken.highBytes();
    }

    private boolean placeFrom(int task, int only, long from, long until, long fixed) {
        List<Way> ways = tasks.get(task).ways();
        int best = -1;
        long bestStart = 0;
        long bestEnd = NEVER;
        for (int i = only < 0 ? 0 : only; i < (only < 0 ? ways.size() : only + 1); i++) {
            Way each = ways.get(i);
            int drive = driveOfWay[task][i];
            spent++;
            if (drive < 0 || room[drive] < each.highBytes() || from + each.length() >= bestEnd) {
                continue;
            }
            long at = common(drives[drive], links[linkOfDrive[drive]], computers[computerOfTask[task]], from, each.length());
            boolean fits = at + each.longest() <= until && (fixed < 0 || at == fixed);
            if (fits && at + each.length() < bestEnd) {
                best = i;
                bestStart = at;
                bestEnd = at + each.length();
            }
        }
        if (best < 0) {
            return false;
        }
        take(task, best, bestStart, until);
        return true;
    }

    /** The first moment at which all three are free for so long. */
    private static long common(Timetable a, Timetable b, Timetable c, long from, long length) {
        long at = from;
        while (true) {
            long next = c.earliest(b.earliest(a.earliest(at, length), length), length);
            if (next == at) {
                return at;
            }
            at = next;
        }
    }

    private long bootSlot(long from) {
        for (Span there : question.person()) {
            long at = person.earliest(Math.max(from, there.from().getEpochSecond()), perBoot);
            if (at + perBoot <= there.to().getEpochSecond()) {
                return at;
            }
        }
        return NEVER;
    }

    /** Moves every boot as late as its captures, the person and the other boots allow: people keep their computers so much longer. */
    void bootLater() {
        int[] booted = java.util.stream.IntStream.range(0, tasks.size()).filter(t -> placed(t) && boot[t] != NEVER).boxed()
            .sorted((a, b) -> Long.compare(boot[b], boot[a])).mapToInt(Integer::intValue).toArray();
        long next = NEVER;
        for (int t : booted) {
            long first = java.util.stream.IntStream.range(0, tasks.size()).filter(other -> placed(other) && sharesComputer(other, t))
                .mapToLong(this::start).min().orElseThrow();
            long there = question.person().stream()
                .filter(span -> span.from().getEpochSecond() <= boot[t] && boot[t] < span.to().getEpochSecond())
                .mapToLong(span -> span.to().getEpochSecond())
                .findFirst().orElseThrow();
            boot[t] = Math.max(boot[t], Math.min(Math.min(first, there), next) - perBoot);
            next = boot[t];
        }
    }

    /** Whether its computer could still be booted by someone, were it the only thing left to do. */
    boolean bootable(int task) {
        if (!tasks.get(task).needsPerson() || ready[computerOfTask[task]] != NEVER) {
            return true;
        }
        for (int w = 0; w < windows[task].length; w += 2) {
            if (bootSlot(Math.max(begins, windows[task][w] - lead)) != NEVER) {
                return true;
            }
        }
        return false;
    }
}
