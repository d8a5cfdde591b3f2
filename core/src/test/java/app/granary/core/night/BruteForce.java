package app.granary.core.night;

import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Set;

/**
 * Tries every night there is, for small ones: every sequence of booting a computer and starting a capture on a drive, each at the first
 * moment after the one before on the same things. Every possible night, put in order of its starts, is such a sequence or ends later than
 * one. Shares no code with the planner.
 */
final class BruteForce {
    private final NightQuestion question;
    private final List<NightTask> tasks;
    private final List<NightDrive> drives;
    private final Set<List<Long>> seen = new HashSet<>();
    int finished;
    long overdue;
    long lastEnd = Long.MAX_VALUE;

    BruteForce(NightQuestion question) {
        this.question = question;
        this.tasks = question.tasks();
        this.drives = question.drives();
        long begins = question.begins().getEpochSecond();
        List<Long> free = new ArrayList<>();
        // state: done mask, free from of each drive, room of each drive, person free from, then ready time of each task's computer (-1: not
        // booted)
        free.add(0L);
        drives.forEach(d -> free.add(begins));
        drives.forEach(d -> free.add(d.roomBytes()));
        free.add(begins);
        tasks.forEach(t -> free.add(t.needsPerson() ? -1L : begins));
        free.add(0L);
        go(free);
    }

    private void go(List<Long> state) {
        if (!seen.add(state)) {
            return;
        }
        int d = drives.size();
        int readyAt = 2 + 2 * d;
        long mask = state.get(0);
        long last = state.get(state.size() - 1);
        judge(mask, last);
        for (int t = 0; t < tasks.size(); t++) {
            if ((mask >> t & 1) == 1) {
                continue;
            }
            NightTask task = tasks.get(t);
            long ready = state.get(readyAt + t);
            if (ready < 0) {
                boot(state, t, readyAt, d);
                continue;
            }
            for (Way way : task.ways()) {
                image(state, t, way);
            }
        }
    }

    private void image(List<Long> state, int t, Way way) {
        int d = drives.size();
        int readyAt = 2 + 2 * d;
        NightTask task = tasks.get(t);
        int i = java.util.stream.IntStream.range(0, d).filter(x -> drives.get(x).id().equals(way.driveId())).findFirst()
            .orElseThrow();
        if (state.get(1 + d + i) < way.highBytes()) {
            return;
        }
        for (Span window : task.windows()) {
            long start = Math.max(Math.max(state.get(readyAt + t), state.get(1 + i)), window.from().getEpochSecond());
            if (start + way.longest() > window.to().getEpochSecond()) {
                continue;
            }
            List<Long> next = new ArrayList<>(state);
            next.set(0, state.get(0) | 1L << t);
            for (int x = 0; x < d; x++) {
                boolean shared = x == i || !drives.get(x).link().isEmpty() && drives.get(x).link().equals(drives.get(i).link());
                if (shared) {
                    next.set(1 + x, Math.max(next.get(1 + x), start + way.length()));
                }
            }
            next.set(1 + d + i, state.get(1 + d + i) - way.highBytes());
            for (int other = 0; other < tasks.size(); other++) {
                if (tasks.get(other).computer().equals(task.computer()) && next.get(readyAt + other) >= 0) {
                    next.set(readyAt + other, Math.max(next.get(readyAt + other), start + way.length()));
                }
            }
            next.set(next.size() - 1, Math.max(state.get(state.size() - 1), start + way.length()));
            go(next);
        }
    }

    private void boot(List<Long> state, int t, int readyAt, int d) {
        for (Span window : tasks.get(t).windows()) {
            for (Span there : question.person()) {
                long at = Math.max(Math.max(state.get(1 + 2 * d), there.from().getEpochSecond()),
                    Math.max(question.begins().getEpochSecond(), window.from().minus(question.lead()).getEpochSecond()));
                if (at + question.perBoot().toSeconds() > there.to().getEpochSecond()) {
                    continue;
                }
                List<Long> next = new ArrayList<>(state);
                next.set(1 + 2 * d, at + question.perBoot().toSeconds());
                for (int other = 0; other < tasks.size(); other++) {
                    if (tasks.get(other).computer().equals(tasks.get(t).computer())) {
                        next.set(readyAt + other, at + question.perBoot().toSeconds());
                    }
                }
                go(next);
            }
        }
    }

    private void judge(long mask, long last) {
        int count = Long.bitCount(mask);
        long served = 0;
        for (int t = 0; t < tasks.size(); t++) {
            served += (mask >> t & 1) * tasks.get(t).overdue().toSeconds();
        }
        if (count > finished || count == finished && (served > overdue || served == overdue && last < lastEnd)) {
            finished = count;
            overdue = served;
            lastEnd = last;
        }
    }
}
