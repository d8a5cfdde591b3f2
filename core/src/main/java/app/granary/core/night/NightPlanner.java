package app.granary.core.night;

import java.util.Comparator;
import java.util.List;
import java.util.SplittableRandom;
import java.util.stream.IntStream;

/**
 * Plans a night: as many as possible finish, the longest overdue before others, and all as early as can be. Four plain orders are tried;
 * then the best one is improved by small changes, one after the other, each kept when the night is no worse for it. The changes are drawn
 * from a fixed seed, so the same question always gets the same answer. Pinned tasks are placed first.
 */
public final class NightPlanner {
    /**
     * Ways weighed before it is left at that: enough for nights of eight to be as good as trying everything, and quick enough for sixty
     * computers (bench).
     */
    private static final long BUDGET = 280_000;
    /** Changes without gain after which it goes back to the best night so far. */
    private static final int PATIENCE = 250;

    private final NightQuestion question;
    private final List<NightTask> tasks;
    private final Board board;
    private final int[] pinned;

    private NightPlanner(NightQuestion question) {
        this.question = question;
        this.tasks = question.tasks();
        this.board = new Board(question);
        this.pinned = IntStream.range(0, tasks.size()).filter(t -> tasks.get(t).pin().start().isPresent()).boxed()
            .sorted(Comparator.comparing(t -> tasks.get(t).pin().start().orElseThrow())).mapToInt(Integer::intValue).toArray();
    }

    public static Night plan(NightQuestion question) {
        NightPlanner planner = new NightPlanner(question);
        planner.search();
        return new NightReport(question, planner.board).night();
    }

    /** How good a night is: higher count, more overdue served, earlier end, earlier ends in all. */
    private record Score(int finished, long overdueSeconds, long lastEnd, long sumOfEnds) {
        /** Positive when this night is the better one. */
        int against(Score other) {
            if (finished != other.finished) {
                return finished - other.finished;
            }
            if (overdueSeconds != other.overdueSeconds) {
                return Long.compare(overdueSeconds, other.overdueSeconds);
            }
            return lastEnd != other.lastEnd ? Long.compare(other.lastEnd, lastEnd) : Long.compare(other.sumOfEnds, sumOfEnds);
        }
    }

    /**
     * A way to fill the board.
     *
     * @param order the tasks that are not pinned
     * @param only  of each task, the one way it may take, or -1 for whichever ends first
     */
    private record Filling(int[] order, int[] only) {
        Filling copy() {
            return new Filling(order.clone(), only.clone());
        }
    }

    private Score fill(Filling filling) {
        board.clear();
        for (int task : pinned) {
            board.place(task, filling.only[task]);
        }
        for (int task : filling.order) {
            board.place(task, filling.only[task]);
        }
        int finished = 0;
        long overdue = 0;
        long last = 0;
        long sum = 0;
        for (int t = 0; t < tasks.size(); t++) {
            if (board.placed(t)) {
                finished++;
                overdue += Math.max(0, tasks.get(t).overdue().toSeconds());
                last = Math.max(last, board.end(t));
                sum += board.end(t);
            }
        }
        return new Score(finished, overdue, last, sum);
    }

    private void search() {
        Filling best = null;
        Score bestScore = null;
        for (int[] order : plainOrders()) {
            Filling each = new Filling(order, fixedWays());
            Score score = fill(each);
            if (bestScore == null || score.against(bestScore) > 0) {
                best = each;
                bestScore = score;
            }
        }
        Score bound = bound();
        SplittableRandom random = new SplittableRandom(tasks.size());
        Filling current = best.copy();
        Score currentScore = bestScore;
        int idle = 0;
        while (board.spent() < BUDGET && bound.against(bestScore) > 0 && best.order.length > 0) {
            Filling next = current.copy();
            change(next, random);
            Score score = fill(next);
            if (score.against(currentScore) >= 0) {
                current = next;
                currentScore = score;
            }
            if (score.against(bestScore) > 0) {
                best = next;
                bestScore = score;
                idle = 0;
            } else if (++idle > PATIENCE) {
                current = best.copy();
                change(current, random);
                change(current, random);
                change(current, random);
                currentScore = fill(current);
                idle = 0;
            }
        }
        fill(best);
        board.bootLater();
    }

    /** No night is better than the one in which every task has everything to itself. */
    private Score bound() {
        int finished = 0;
        long overdue = 0;
        long last = 0;
        long sum = 0;
        for (int t = 0; t < tasks.size(); t++) {
            board.clear();
            if (board.place(t, fixedWays()[t])) {
                finished++;
                overdue += Math.max(0, tasks.get(t).overdue().toSeconds());
                last = Math.max(last, board.end(t));
                sum += board.end(t);
            }
        }
        return new Score(finished, overdue, last, sum);
    }

    private int[] fixedWays() {
        return tasks.stream().mapToInt(task -> task.pin().driveId().map(id -> indexOf(task, id)).orElse(-1)).toArray();
    }

    private static int indexOf(NightTask task, String driveId) {
        return IntStream.range(0, task.ways().size()).filter(i -> task.ways().get(i).driveId().equals(driveId)).findFirst().orElse(-1);
    }

    private List<int[]> plainOrders() {
        Comparator<Integer> overdue = Comparator.comparing((Integer t) -> tasks.get(t).overdue()).reversed();
        Comparator<Integer> closesFirst = Comparator
            .comparing(t -> tasks.get(t).windows().stream().map(Span::to).max(Comparator.naturalOrder()).orElse(question.begins()));
        Comparator<Integer> shortest = Comparator
            .comparing(t -> tasks.get(t).ways().stream().mapToDouble(Way::likelySeconds).min().orElse(0));
        return List.of(order(overdue.thenComparing(closesFirst)), order(closesFirst), order(shortest), order(shortest.reversed()));
    }

    private int[] order(Comparator<Integer> by) {
        return IntStream.range(0, tasks.size()).filter(t -> tasks.get(t).pin().start().isEmpty()).boxed().sorted(by)
            .mapToInt(Integer::intValue).toArray();
    }

    /** One small change: two rows change places, one moves, or one is sent to another drive. */
    private void change(Filling filling, SplittableRandom random) {
        int[] order = filling.order;
        int a = random.nextInt(order.length);
        int b = random.nextInt(order.length);
        switch (random.nextInt(3)) {
            case 0 -> {
                int kept = order[a];
                order[a] = order[b];
                order[b] = kept;
            }
            case 1 -> {
                int moved = order[a];
                if (a < b) {
                    System.arraycopy(order, a + 1, order, a, b - a);
                } else {
                    System.arraycopy(order, b, order, b + 1, a - b);
                }
                order[b] = moved;
            }
            default -> {
                NightTask task = tasks.get(order[a]);
                if (task.pin().driveId().isEmpty() && task.ways().size() > 1) {
                    filling.only[order[a]] = random.nextInt(task.ways().size() + 1) - 1;
                }
            }
        }
    }
}
