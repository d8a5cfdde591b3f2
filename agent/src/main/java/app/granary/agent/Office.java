package app.granary.agent;

import app.granary.core.agent.JoinCode;
import app.granary.core.agent.Protocol;
import app.granary.core.fault.Fault;
import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.databind.node.ObjectNode;
import java.io.IOException;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.net.http.WebSocket;
import java.time.Duration;
import java.time.Instant;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.CompletionException;
import java.util.concurrent.CompletionStage;
import java.util.concurrent.ExecutionException;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.TimeoutException;

/** The office this computer has joined, reached outwards only. */
final class Office {
    private static final ObjectMapper JSON = new ObjectMapper();
    private static final Duration PATIENCE = Duration.ofSeconds(20);
    /** Between two tries to reach an office that went away. */
    private static final long AGAIN_MILLIS = 3_000;

    private final URI address;
    private final HttpClient http;
    private final String token;
    private final String name;
    private final long clockOffSeconds;

    private Office(URI address, HttpClient http, JsonNode admitted) {
        this.address = address;
        this.http = http;
        this.token = admitted.path("token").asText();
        this.name = admitted.path("office").asText();
        this.clockOffSeconds = admitted.path("clockOffSeconds").asLong();
    }

    /** @throws app.granary.core.fault.FaultException with a sentence, when it is another server, or does not let this computer in */
    static Office join(URI address, JoinCode code, String machine) throws IOException, InterruptedException {
        HttpClient http = HttpClient.newBuilder().sslContext(PinnedTrust.of(code)).connectTimeout(PATIENCE).build();
        ObjectNode knock = JSON.createObjectNode().put("protocol", Protocol.VERSION).put("secret", code.secret()).put("name", machine)
            .put("clock", Instant.now().toString());
        HttpRequest request = HttpRequest.newBuilder(address.resolve("/agents/join")).header("Content-Type", "application/json")
            .timeout(PATIENCE).POST(HttpRequest.BodyPublishers.ofString(knock.toString())).build();
        HttpResponse<String> answer;
        try {
            answer = http.send(request, HttpResponse.BodyHandlers.ofString());
        } catch (IOException unreachable) {
            throw unreachable(address, unreachable);
        }
        JsonNode said = read(answer.body());
        if (answer.statusCode() != 201) {
            throw Fault.of(Fault.Kind.FORBIDDEN, address.toString(), said.path("detail").asText(
                "The office answered " + answer.statusCode() + ". Is that its address for agents?")).asException();
        }
        return new Office(address, http, said);
    }

    private static IOException unreachable(URI address, IOException why) {
        for (Throwable cause = why; cause != null; cause = cause.getCause()) {
            if (String.valueOf(cause.getMessage()).contains(PinnedTrust.ANOTHER)) {
                return Fault.of(Fault.Kind.FORBIDDEN, address.toString(), "At " + address + " answers " + PinnedTrust.ANOTHER
                    + ". Nothing was told to it. Look at the address and the code on the Computers page; if both are right, somebody is "
                    + "between you and the office.").asException();
            }
        }
        return Fault.of(Fault.Kind.DEVICE_FAILED, address.toString(), "The office cannot be reached at " + address + " (" + why.getMessage()
            + "). Look at the cable and the address, and that Granary was started there with --listen.").asException();
    }

    private static JsonNode read(String text) {
        try {
            return JSON.readTree(text);
        } catch (IOException none) {
            return JSON.createObjectNode();
        }
    }

    /** What a person is told who has just joined. */
    String welcome() {
        return "Joined " + name + ". This computer's disks are at its hand until this ends."
            + (Math.abs(clockOffSeconds) > 60 ? " This computer's clock is " + Math.abs(clockOffSeconds) / 60 + " min "
                + (clockOffSeconds > 0 ? "ahead." : "behind.") : "");
    }

    /**
     * Keeps a line to the office, and takes it up again when it breaks.
     *
     * @return false when it was sent away
     */
    boolean stay(Machine machine) throws IOException, InterruptedException {
        while (true) {
            Line line = new Line();
            try {
                WebSocket open = http.newWebSocketBuilder().header("Authorization", "Bearer " + token).connectTimeout(PATIENCE)
                    .buildAsync(URI.create("wss://" + address.getRawAuthority() + "/agents/channel"), line).get(30, TimeUnit.SECONDS);
                keep(open, line, machine);
            } catch (ExecutionException | TimeoutException | CompletionException broken) {
                if (String.valueOf(broken.getMessage()).contains("401")) {
                    System.err.println("granary-agent: the office does not know this computer any more. Join again with a new code.");
                    return false;
                }
                System.err.println("granary-agent: the office cannot be reached; trying again.");
            }
            if (line.closed.getNow("").contains("sent away")) {
                System.err.println("granary-agent: the office sent this computer away.");
                return false;
            }
            Thread.sleep(AGAIN_MILLIS);
        }
    }

    private static void keep(WebSocket open, Line line, Machine machine) throws IOException, InterruptedException {
        ObjectNode here = JSON.createObjectNode().put("type", Protocol.HERE);
        here.set("report", machine.report());
        String last = here.toString();
        open.sendText(last, true).join();
        while (!line.closed.isDone()) {
            try {
                line.closed.get(Protocol.BEAT_MILLIS, TimeUnit.MILLISECONDS);
            } catch (TimeoutException stillOpen) {
                ObjectNode now = JSON.createObjectNode().put("type", Protocol.HERE);
                now.set("report", machine.report());
                String text = now.toString().equals(last) ? JSON.createObjectNode().put("type", Protocol.BEAT).toString() : now.toString();
                last = now.toString();
                open.sendText(text, true).join();
            } catch (ExecutionException impossible) {
                return;
            }
        }
    }

    /** Hears when the line ends, and why. */
    private static final class Line implements WebSocket.Listener {
        private final CompletableFuture<String> closed = new CompletableFuture<>();

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
