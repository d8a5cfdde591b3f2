package app.granary.bench;

import app.granary.core.night.Night;
import app.granary.core.night.NightDrive;
import app.granary.core.night.NightPlanner;
import app.granary.core.night.NightQuestion;
import app.granary.core.night.NightTask;
import app.granary.core.night.Span;
import app.granary.core.night.Way;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Random;

/** A night of sixty computers and twelve drives, planned again and again. Absolute: a person waits for it at every pin. */
final class NightBench {
    private static final Instant FIVE = Instant.parse("2026-11-24T17:00:00Z");
    private static final int COMPUTERS = 60;
    private static final int DRIVES = 12;
    private static final int NIGHTS = 30;

    private NightBench() {
    }

    /** Milliseconds of the slowest of thirty nights, the first few left out as a started server would. */
    static double slowest() {
        double[] millis = new double[NIGHTS];
        int finished = 0;
        for (int i = -5; i < NIGHTS; i++) {
            NightQuestion question = question(new Random(i));
            long began = System.nanoTime();
            Night night = NightPlanner.plan(question);
            if (i >= 0) {
                millis[i] = (System.nanoTime() - began) / 1e6;
                finished += night.rows().size();
            }
        }
        System.out.printf("    %d of %d images fit on average%n", finished / NIGHTS, COMPUTERS);
        return Arrays.stream(millis).max().orElseThrow();
    }

    private static NightQuestion question(Random random) {
        List<NightDrive> drives = new ArrayList<>();
        for (int d = 0; d < DRIVES; d++) {
            drives.add(new NightDrive("d" + d, "D" + d, (400 + random.nextInt(1600)) * 1_000_000_000L, d < 4 ? "network" : ""));
        }
        List<NightTask> tasks = new ArrayList<>();
        for (int t = 0; t < COMPUTERS; t++) {
            double seconds = (10 + random.nextInt(180)) * 60.0;
            List<Way> ways = new ArrayList<>();
            for (NightDrive drive : drives) {
                double there = seconds * (1 + random.nextInt(4) * 0.5);
                ways.add(new Way(drive.id(), there * 0.85, there, there * 1.3, (20 + random.nextInt(250)) * 1_000_000_000L));
            }
            double from = random.nextInt(4);
            Span window = new Span(FIVE.plusSeconds(Math.round(from * 3600)),
                FIVE.plusSeconds(Math.round((from + 6 + random.nextInt(8)) * 3600)));
            tasks.add(new NightTask("t" + t, "T" + t, "PC" + t, Duration.ofDays(random.nextInt(5) == 0 ? random.nextInt(20) : 0),
                List.of(window), random.nextInt(3) > 0, ways, List.of(), List.of(), "",
                NightTask.Pin.NONE));
        }
        return new NightQuestion(FIVE, tasks, drives, List.of(), List.of(new Span(FIVE, FIVE.plusSeconds(7200))), Duration.ofMinutes(4),
            Duration.ofHours(1), ZoneOffset.UTC);
    }
}
