package app.granary.agent;

import app.granary.core.fault.Fault;
import app.granary.core.fault.FaultException;
import app.granary.engine.line.LineFiles;
import app.granary.engine.line.LineJson;
import app.granary.engine.line.Message;
import app.granary.engine.progress.Rest;
import app.granary.engine.progress.Watch;
import java.io.IOException;
import java.net.URLEncoder;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.ExecutionException;
import java.util.concurrent.Flow;
import java.util.concurrent.LinkedBlockingQueue;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.TimeoutException;

/** Carries the calls of one lent folder to the office. What is not answered is told again, for a day. */
final class Carrier implements LineFiles.Carrier {
    private static final long ANSWER_SECONDS = 60;
    /** The office says something every 5 s while a call takes long; so many seconds without a word are silence. */
    private static final int BEATS_MISSED = 12;
    private static final Duration GIVES_UP = Duration.ofHours(24);
    private static final long LONGEST_WAIT_MILLIS = 10_000;
    /** In place of a line: the connection was cut; the answer has ended. Neither is a message. */
    private static final String BROKEN = "broken";
    private static final String ENDED = "ended";
    private static final int NOT_FOUND = 404;
    private static final int CONFLICT = 409;

    private final Office office;
    private final String base;

    Carrier(Office office, String token) {
        this.office = office;
        this.base = "/agents/files/" + token + "/";
    }

    private static String at(String path, long at) {
        return "bytes?path=" + URLEncoder.encode(path, StandardCharsets.UTF_8) + "&at=" + at;
    }

    @Override
    public byte[] read(String path, long at, int most) throws IOException {
        return until(() -> answered(office.bulk().get(base + at(path, at) + "&most=" + most)));
    }

    @Override
    public void write(String path, long at, byte[] bytes) throws IOException {
        until(() -> answered(office.bulk().put(base + at(path, at), bytes)));
    }

    @Override
    public Message ask(Message.Ask ask, Watch watch) throws IOException {
        return until(() -> streamed(ask, watch));
    }

    /** One try. A {@link FaultException}, or another that {@link LineFiles#thrown} makes, is an answer; other failures are none. */
    private interface Try<T> {
        T once() throws IOException, InterruptedException, ExecutionException, TimeoutException, Answered;
    }

    /** The office answered that it cannot be done. */
    private static final class Answered extends Exception {
        private static final long serialVersionUID = 1L;

        Answered(IOException why) {
            super(why);
        }
    }

    private static <T> T until(Try<T> what) throws IOException {
        long end = System.nanoTime() + GIVES_UP.toNanos();
        long wait = 250;
        while (true) {
            try {
                return what.once();
            } catch (Answered answer) {
                throw (IOException) answer.getCause();
            } catch (InterruptedException stopped) {
                throw Rest.interrupted();
            } catch (IOException | ExecutionException | TimeoutException unanswered) {
                if (System.nanoTime() > end) {
                    throw Fault.of(Fault.Kind.DEVICE_FAILED, "the office", "The office was not reached for a day. What had been sent lies "
                        + "there unfinished, and can be carried on.").asException();
                }
                Rest.millis(wait);
                wait = Math.min(LONGEST_WAIT_MILLIS, wait * 2);
            }
        }
    }

    private static byte[] answered(Bulk.Answer answer) throws IOException, Answered {
        require(answer.status(), new String(answer.status() < 300 ? new byte[0] : answer.body(), StandardCharsets.UTF_8));
        return answer.body();
    }

    private static void require(int status, String body) throws IOException, Answered {
        if (status == NOT_FOUND || status == 401) {
            throw new Answered(Fault.of(Fault.Kind.STOPPED, "the office", "The office does not wait for this work any more. What had been "
                + "sent lies there unfinished, and can be carried on.").asException());
        }
        if (status == CONFLICT) {
            throw new Answered(LineFiles.thrown(LineJson.message(body)));
        }
        if (status >= 300) {
            throw new IOException("the office answered " + status);
        }
    }

    private void stop(Message.Ask ask) throws IOException, InterruptedException, ExecutionException, TimeoutException, Answered {
        HttpRequest told = office.request(base + "stop?key=" + ask.key()).POST(HttpRequest.BodyPublishers.noBody()).build();
        require(office.http().sendAsync(told, HttpResponse.BodyHandlers.discarding()).get(ANSWER_SECONDS, TimeUnit.SECONDS).statusCode(),
            "");
    }

    private Message streamed(Message.Ask ask, Watch watch)
        throws IOException, InterruptedException, ExecutionException, TimeoutException, Answered {
        Lines lines = new Lines();
        CompletableFuture<HttpResponse<Void>> sent = office.http().sendAsync(office.request(base + "calls")
            .header("Content-Type", "application/json").POST(HttpRequest.BodyPublishers.ofString(LineJson.text(ask))).build(),
            HttpResponse.BodyHandlers.fromLineSubscriber(lines));
        boolean stopped = false;
        try {
            for (int silent = 0; silent < BEATS_MISSED;) {
                if (!stopped && watch.stopRequested()) {
                    stopped = true;
                    stop(ask);
                }
                String line = lines.got.poll(1, TimeUnit.SECONDS);
                silent = line == null ? silent + 1 : 0;
                if (line == null && sent.isCompletedExceptionally()) {
                    sent.get();
                }
                if (BROKEN.equals(line)) {
                    throw new IOException("the connection broke"); // no answer will come by it, and waiting for one takes a minute
                }
                if (line != null && sent.get(ANSWER_SECONDS, TimeUnit.SECONDS).statusCode() >= 300) {
                    require(sent.join().statusCode(), line);
                }
                Message told = line == null || line.isEmpty() ? new Message.Beat() : LineJson.message(line);
                if (told instanceof Message.Advanced now) {
                    watch.advanced(now.progress());
                } else if (!(told instanceof Message.Beat)) {
                    return told;
                }
            }
            throw new TimeoutException("the office said nothing");
        } finally {
            sent.cancel(true);
        }
    }

    /** Lines as they come, and at last one that is none: that there are no more, or why. */
    private static final class Lines implements Flow.Subscriber<String> {
        private final LinkedBlockingQueue<String> got = new LinkedBlockingQueue<>();

        @Override
        public void onSubscribe(Flow.Subscription lines) {
            lines.request(Long.MAX_VALUE);
        }

        @Override
        public void onNext(String line) {
            got.add(line);
        }

        @Override
        public void onError(Throwable broken) {
            got.add(BROKEN);
        }

        @Override
        public void onComplete() {
            got.add(ENDED);
        }
    }
}
