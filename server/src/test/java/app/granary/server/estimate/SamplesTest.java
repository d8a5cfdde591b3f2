package app.granary.server.estimate;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertSame;
import static org.junit.jupiter.api.Assertions.assertThrows;
import static org.junit.jupiter.api.Assertions.assertTrue;
import static org.mockito.ArgumentMatchers.any;
import static org.mockito.ArgumentMatchers.anyBoolean;
import static org.mockito.ArgumentMatchers.eq;
import static org.mockito.Mockito.mock;
import static org.mockito.Mockito.times;
import static org.mockito.Mockito.verify;
import static org.mockito.Mockito.when;

import app.granary.core.estimate.SizeEstimate;
import app.granary.core.fault.Fault;
import app.granary.core.fault.FaultException;
import app.granary.core.filesystem.SurveyChoice;
import app.granary.engine.codec.Codec;
import app.granary.engine.progress.Progress;
import app.granary.engine.progress.Watch;
import app.granary.engine.sample.SampleGoal;
import app.granary.engine.host.Devices;
import app.granary.engine.host.HostEstimate;
import app.granary.engine.host.Storage;
import app.granary.server.problem.Refused;
import java.io.IOException;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneId;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.List;
import java.util.OptionalLong;
import java.util.concurrent.Callable;
import java.util.concurrent.CountDownLatch;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.atomic.AtomicInteger;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;
import org.springframework.http.HttpStatus;

class SamplesTest {
    private static final Storage BALANCED = new Storage(Codec.ZSTD, 3, OptionalLong.empty(), SurveyChoice.USED);
    private static final Duration MINUTE = Duration.ofMinutes(1);

    private final Devices devices = mock(Devices.class);
    private Instant now = Instant.parse("2026-11-24T16:00:00Z");
    private final Samples samples = new Samples(devices, new Clock() {
        @Override
        public ZoneId getZone() {
            return ZoneOffset.UTC;
        }

        @Override
        public Clock withZone(ZoneId zone) {
            return this;
        }

        @Override
        public Instant instant() {
            return now;
        }
    });
    private final ExecutorService others = Executors.newFixedThreadPool(3);

    @AfterEach
    void end() {
        others.shutdownNow();
    }

    private static HostEstimate estimate(long bytes) {
        return new HostEstimate(SizeEstimate.exact(bytes, bytes, new SizeEstimate.Overhead(0, 0, 0)), 100);
    }

    @Test
    void aSampleStandsForAWhileAndEachWayToStoreHasItsOwn() throws IOException {
        when(devices.estimate(any(), any(), any(), any())).thenReturn(estimate(1), estimate(2), estimate(3));
        HostEstimate first = samples.of("d", BALANCED, MINUTE, () -> List.of(5L));
        now = now.plusSeconds(59);
        assertSame(first, samples.of("d", BALANCED, MINUTE, () -> List.of(9L)));
        assertEquals(estimate(2),
            samples.of("d", new Storage(Codec.ZSTD, 3, OptionalLong.empty(), new SurveyChoice(false, true)), MINUTE, () -> List.of()));
        now = now.plusSeconds(2);
        assertEquals(estimate(3), samples.of("d", BALANCED, MINUTE, () -> List.of()));
        verify(devices).estimate(eq("d"), eq(BALANCED), eq(SampleGoal.clearOf(List.of(5L))), any());
    }

    @Test
    void zeroAgeTakesItAnewAndAFailureIsNotKept() throws IOException {
        when(devices.estimate(any(), any(), any(), any())).thenReturn(estimate(1))
            .thenThrow(Fault.of(Fault.Kind.NOT_RECOGNISED, "d", "The disk is not attached.").asException()).thenReturn(estimate(3));
        samples.of("d", BALANCED, MINUTE, () -> List.of());
        assertEquals("The disk is not attached.",
            assertThrows(FaultException.class, () -> samples.of("d", BALANCED, Duration.ZERO, () -> List.of())).getMessage());
        assertEquals(estimate(3), samples.of("d", BALANCED, Duration.ZERO, () -> List.of()));
        assertTrue(samples.underWay("d").isEmpty());
    }

    @Test
    void whoAsksMeanwhileSharesItSeesHowFarItIsAndMayEndIt() throws Exception {
        CountDownLatch begun = new CountDownLatch(1);
        when(devices.estimate(any(), any(), any(), any())).thenAnswer(call -> {
            Watch watch = call.getArgument(3);
            watch.advanced(new Progress(Progress.Stage.SAMPLING, 20, 256, 0));
            begun.countDown();
            for (int i = 0; i < 2000 && !watch.stopRequested(); i++) {
                Thread.sleep(5);
            }
            return estimate(watch.stopRequested() ? 7 : 8);
        });
        Future<HostEstimate> one = others.submit(() -> samples.of("d", BALANCED, MINUTE, () -> List.of()));
        assertTrue(begun.await(20, TimeUnit.SECONDS));
        Future<HostEstimate> two = others.submit(() -> samples.of("d", BALANCED, MINUTE, () -> List.of()));
        assertEquals(20, samples.underWay("d").get(0).progress().doneBytes());
        assertEquals(BALANCED, samples.underWay("d").get(0).storage());
        assertTrue(samples.underWay("another").isEmpty());
        samples.enough("another");
        samples.enough("d");
        assertEquals(estimate(7), one.get(20, TimeUnit.SECONDS));
        assertEquals(estimate(7), two.get(20, TimeUnit.SECONDS));
        verify(devices, times(1)).estimate(any(), any(), any(), any());
    }

    /** Who looks for a kept one just before the first ends, and for one under way just after, finds the kept one all the same. */
    @Test
    void whoAsksJustAsItEndsDoesNotReadTheDiskAgain() throws Exception {
        when(devices.estimate(any(), any(), any(), any())).thenReturn(estimate(1));
        int rounds = 3000;
        try (Crowd crowd = new Crowd(4)) {
            for (int round = 0; round < rounds; round++) {
                String disk = "d" + round;
                crowd.all(ignored -> samples.of(disk, BALANCED, MINUTE, () -> List.of()));
            }
        }
        verify(devices, times(rounds)).estimate(any(), any(), any(), any());
    }

    /** Each way to store may be asked for by anybody who may look, and each sample reads the disk and keeps a core busy. */
    @Test
    void noMoreThanTwoAreTakenAtOnce() throws Exception {
        AtomicInteger now = new AtomicInteger();
        AtomicInteger most = new AtomicInteger();
        when(devices.estimate(any(), any(), any(), any())).thenAnswer(asked -> {
            most.accumulateAndGet(now.incrementAndGet(), Math::max);
            TimeUnit.MILLISECONDS.sleep(20);
            now.decrementAndGet();
            return estimate(1);
        });
        try (Crowd crowd = new Crowd(19)) {
            crowd.all(level -> samples.of("d", new Storage(Codec.ZSTD, level + 1, OptionalLong.empty(), SurveyChoice.USED), MINUTE,
                () -> List.of()));
        }
        verify(devices, times(19)).estimate(any(), any(), any(), any());
        assertEquals(Samples.AT_ONCE, most.get());
    }

    @Test
    void pagesThatAskForMoreThanThatAreToldAtOnce() throws Exception {
        Prospects slow = mock(Prospects.class);
        CountDownLatch inside = new CountDownLatch(EstimateController.ASKING_AT_ONCE);
        CountDownLatch done = new CountDownLatch(1);
        when(slow.of(any(), any(), anyBoolean())).thenAnswer(asked -> {
            inside.countDown();
            done.await();
            throw Refused.notFound("disk");
        });
        EstimateController pages = new EstimateController(slow, samples, mock(app.granary.server.image.Images.class), Clock.systemUTC());
        try (Crowd crowd = new Crowd(EstimateController.ASKING_AT_ONCE)) {
            for (int i = 0; i < EstimateController.ASKING_AT_ONCE; i++) {
                crowd.begin(() -> pages.estimate("d", "zstd", null, null, false, false, List.of(), false, false));
            }
            inside.await();
            Refused busy = assertThrows(Refused.class, () -> pages.estimate("d", "xz", null, null, false, false, List.of(), false, false));
            assertEquals(HttpStatus.SERVICE_UNAVAILABLE, busy.status());
            done.countDown();
        }
        Refused after = assertThrows(Refused.class, () -> pages.estimate("d", "xz", null, null, false, false, List.of(), false, false));
        assertEquals(HttpStatus.NOT_FOUND, after.status(), "what is over holds nobody");
    }

    /** Many who ask at once. */
    private record Crowd(ExecutorService threads) implements AutoCloseable {
        Crowd(int count) {
            this(Executors.newFixedThreadPool(count));
        }

        interface Asking {
            void ask(int number) throws Exception;
        }

        void all(Asking each) throws Exception {
            List<Future<?>> asked = new ArrayList<>();
            for (int i = 0; i < 19; i++) {
                int number = i;
                asked.add(begin(() -> {
                    each.ask(number);
                    return null;
                }));
            }
            for (Future<?> one : asked) {
                one.get();
            }
        }

        Future<?> begin(Callable<?> work) {
            return threads.submit(work);
        }

        @Override
        public void close() throws InterruptedException {
            threads.shutdown();
            assertTrue(threads.awaitTermination(20, TimeUnit.SECONDS));
        }
    }
}
