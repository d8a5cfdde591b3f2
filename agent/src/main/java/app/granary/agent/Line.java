package app.granary.agent;

import app.granary.core.agent.Protocol;
import app.granary.core.machine.Network;
import app.granary.engine.line.Answering;
import app.granary.engine.line.HostState;
import app.granary.engine.line.LineJson;
import app.granary.engine.line.Message;
import java.io.IOException;
import java.net.http.WebSocket;
import java.util.Optional;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.CompletionStage;
import java.util.concurrent.ExecutionException;
import java.util.concurrent.LinkedBlockingQueue;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.TimeoutException;

/** Keeps a line to the office, and takes it up again when it breaks. Work goes on meanwhile. */
final class Line {
    /** Between two tries to reach an office that went away. */
    private static final long AGAIN_MILLIS = 2_000;
    private static final long LOOK_MILLIS = 2_000;
    private static final long CONNECT_SECONDS = 30;
    /** The office first wants to know which disks there are, and that needs the network and the processor. */
    private static final long MEASURED_AFTER_MILLIS = 3_000;

    private final Office office;
    private final Machine machine;
    private final Answering answering;
    /** Empty until it was measured. */
    private volatile Optional<Network> network;
    private volatile Mouth mouth;
    private final Words words;

    /** What a person is told of the line. */
    interface Words {
        void say(String sentence);
    }

    /** @param network what it carries; empty to measure it */
    Line(Office office, Machine machine, Optional<Network> network, Words words) {
        this.network = network;
        this.words = words;
        this.office = office;
        this.machine = machine;
        this.answering = new Answering(machine.host(), machine.name());
    }

    /** The work the office asked for. */
    Answering answering() {
        return answering;
    }

    /** Tells the office that somebody here confirmed a disk; false when it cannot be spoken to. */
    boolean tell(Message.Typed typed) {
        if (!carries()) {
            return false;
        }
        mouth.tell(typed);
        return true;
    }

    /** Whether the office can be spoken to now. */
    boolean carries() {
        return mouth != null && !mouth.broken;
    }

    Optional<Network> network() {
        return network;
    }

    /** @return false when it was sent away */
    boolean stay() throws IOException, InterruptedException {
        boolean told = false;
        while (true) {
            Ear ear = new Ear();
            try {
                keep(office.line(ear).get(CONNECT_SECONDS, TimeUnit.SECONDS), ear);
                told = false;
            } catch (ExecutionException | TimeoutException broken) {
                if (String.valueOf(broken.getMessage()).contains("401")) {
                    words.say("The office does not know this computer any more. Join again with a new code.");
                    return false;
                }
            }
            if (ear.closed.getNow("").contains("sent away")) {
                words.say("The office sent this computer away.");
                return false;
            }
            if (!told) {
                words.say("The office cannot be reached; work that needs it waits. Trying again.");
                told = true;
            }
            Thread.sleep(AGAIN_MILLIS);
        }
    }

    private void keep(WebSocket open, Ear ear) throws IOException, InterruptedException {
        Mouth mine = new Mouth(open);
        mouth = mine;
        try {
            keep(open, ear, mine);
        } finally {
            mine.end();
        }
    }

    /** Measures the network once, beside whatever else goes on; what was measured already is told again. */
    private void tellNetwork() {
        if (network.isPresent()) {
            mouth.tell(new Message.Measured(network.get()));
            return;
        }
        Thread measuring = new Thread(() -> {
            try {
                Thread.sleep(MEASURED_AFTER_MILLIS);
                network = Optional.of(new Measuring(office).network());
                mouth.tell(new Message.Measured(network.get()));
            } catch (IOException | InterruptedException cutOff) {
                // the next line tries again; until then the office says that it was not measured
            }
        }, "granary-measuring");
        measuring.setDaemon(true);
        measuring.start();
    }

    private void keep(WebSocket open, Ear ear, Mouth mouth) throws IOException, InterruptedException {
        HostState last = machine.state();
        mouth.tell(new Message.Here(last));
        answering.over(mouth::tell);
        tellNetwork();
        long beaten = System.nanoTime();
        while (!ear.closed.isDone() && !mouth.broken) {
            try {
                ear.closed.get(LOOK_MILLIS, TimeUnit.MILLISECONDS);
            } catch (TimeoutException stillOpen) {
                HostState now = machine.state();
                if (!now.equals(last)) {
                    mouth.tell(new Message.Here(now));
                    last = now;
                } else if (System.nanoTime() - beaten > TimeUnit.MILLISECONDS.toNanos(Protocol.BEAT_MILLIS)) {
                    mouth.tell(new Message.Beat());
                    beaten = System.nanoTime();
                }
                if (ear.silentMillis() > Protocol.SILENT_MILLIS) {
                    open.abort(); // a cable that was pulled tells nobody
                    return;
                }
            } catch (ExecutionException impossible) {
                return;
            }
        }
    }

    /**
     * One message after the other, by a thread of its own, so that work waits for no line; what cannot be told is told by the next line.
     */
    private static final class Mouth {
        /** Where work stands is told anew soon; more of it than this is not kept. */
        private static final int WAITING = 32;

        private final WebSocket line;
        private final LinkedBlockingQueue<Message> waiting = new LinkedBlockingQueue<>();
        private volatile boolean broken;

        Mouth(WebSocket line) {
            this.line = line;
            Thread speaking = new Thread(this::speak, "granary-line");
            speaking.setDaemon(true);
            speaking.start();
        }

        void tell(Message message) {
            if (!broken && (waiting.size() < WAITING || !(message instanceof Message.Advanced))) {
                waiting.add(message);
            }
        }

        private void speak() {
            try {
                while (!broken) {
                    Message next = waiting.poll(1, TimeUnit.SECONDS);
                    if (next != null) {
                        line.sendText(LineJson.text(next), true).get(CONNECT_SECONDS, TimeUnit.SECONDS);
                    }
                }
            } catch (ExecutionException | TimeoutException | InterruptedException gone) {
                broken = true;
            }
        }

        void end() {
            broken = true;
        }
    }

    /** Hears what the office says, in whole messages, and when the line ends and why. */
    private final class Ear implements WebSocket.Listener {
        private final CompletableFuture<String> closed = new CompletableFuture<>();
        private final StringBuilder parts = new StringBuilder();
        private volatile long heardNanos = System.nanoTime();

        long silentMillis() {
            return TimeUnit.NANOSECONDS.toMillis(System.nanoTime() - heardNanos);
        }

        @Override
        public CompletionStage<?> onText(WebSocket line, CharSequence text, boolean last) {
            heardNanos = System.nanoTime();
            if (parts.length() + text.length() > Protocol.MOST_CHARACTERS) {
                line.abort();
                closed.complete("too long");
                return null;
            }
            parts.append(text);
            if (last) {
                hear(parts.toString()).ifPresent(answering::hear);
                parts.setLength(0);
            }
            line.request(1);
            return null;
        }

        private Optional<Message> hear(String text) {
            try {
                return Optional.of(LineJson.message(text));
            } catch (IOException unread) {
                words.say("What the office said could not be read (" + unread.getMessage() + ").");
                return Optional.empty();
            }
        }

        @Override
        public CompletionStage<?> onClose(WebSocket line, int status, String reason) {
            closed.complete(reason);
            return null;
        }

        @Override
        public void onError(WebSocket line, Throwable why) {
            closed.complete("broken: " + why.getMessage());
        }
    }
}
