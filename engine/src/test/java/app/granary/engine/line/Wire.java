package app.granary.engine.line;

import app.granary.engine.host.Host;
import java.io.IOException;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;

/** Both sides in one process, and between them the text alone; the cable can be pulled. */
final class Wire implements AutoCloseable {
    private final ExecutorService toOffice = Executors.newSingleThreadExecutor();
    private final ExecutorService toComputer = Executors.newSingleThreadExecutor();
    private final Host host;
    private final Answering answering;
    private volatile LineHost office;
    private volatile int cable;

    Wire(Host host, LineHost office) throws IOException {
        this.host = host;
        this.answering = new Answering(host, host.name());
        this.office = office;
        plug();
        toOffice.execute(() -> { });
        send(cable, new Message.Here(HostState.of(host)));
    }

    /** What is told by a cable that was pulled meanwhile is lost. */
    private void send(int by, Message message) {
        String text = LineJson.text(message);
        toOffice.execute(() -> {
            if (by == cable) {
                office.hear(read(text));
            }
        });
    }

    private static Message read(String text) {
        try {
            return LineJson.message(text);
        } catch (IOException unread) {
            throw new IllegalStateException(text, unread);
        }
    }

    void pull() {
        cable = -Math.abs(cable) - 1;
        office.broken();
    }

    void plug() {
        int now = Math.abs(cable) + 1;
        cable = now;
        answering.over(message -> send(now, message));
        office.over(message -> {
            String text = LineJson.text(message);
            toComputer.execute(() -> {
                if (now == cable) {
                    answering.hear(read(text));
                }
            });
        });
    }

    /** To an office that was started anew, by a cable of its own. */
    void to(LineHost anew) throws IOException {
        office = anew;
        plug();
        send(cable, new Message.Here(HostState.of(host)));
    }

    Answering answering() {
        return answering;
    }

    boolean idle() {
        return answering.idle();
    }

    @Override
    public void close() {
        toOffice.shutdownNow();
        toComputer.shutdownNow();
    }
}
