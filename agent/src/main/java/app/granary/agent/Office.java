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
import java.time.Clock;
import java.time.Duration;
import java.util.concurrent.CompletableFuture;
import javax.net.ssl.SSLContext;
import javax.net.ssl.SSLParameters;

/** The office this computer has joined, reached outwards only. */
final class Office {
    private static final ObjectMapper JSON = new ObjectMapper();
    /** The shorter key first: fewer rounds for every byte, and as far beyond reach (RFC 8446, section 9.1, asks for it of everybody). */
    private static final String[] CIPHERS = {"TLS_AES_128_GCM_SHA256", "TLS_AES_256_GCM_SHA384"};
    private static final Duration PATIENCE = Duration.ofSeconds(20);
    /** An answer that has not begun by then is asked for anew: a connection may be dead without either side having been told. */
    private static final Duration ANSWER = Duration.ofSeconds(15);

    private final URI address;
    private final HttpClient http;
    private final Bulk bulk;
    private final String token;
    private final String name;
    private final long clockOffSeconds;

    private Office(URI address, HttpClient http, SSLContext known, JsonNode admitted) {
        this.address = address;
        this.http = http;
        this.bulk = new Bulk(address, known, CIPHERS, admitted.path("token").asText());
        this.token = admitted.path("token").asText();
        this.name = admitted.path("office").asText();
        this.clockOffSeconds = admitted.path("clockOffSeconds").asLong();
    }

    /** @throws app.granary.core.fault.FaultException with a sentence, when it is another server, or does not let this computer in */
    static Office join(URI address, JoinCode code, String machine, Clock clock) throws IOException, InterruptedException {
        SSLContext known = PinnedTrust.of(code);
        HttpClient http = HttpClient.newBuilder().version(HttpClient.Version.HTTP_1_1).sslContext(known)
            .sslParameters(new SSLParameters(CIPHERS, new String[] {"TLSv1.3"})).connectTimeout(PATIENCE).build();
        ObjectNode knock = JSON.createObjectNode().put("protocol", Protocol.VERSION).put("secret", code.secret()).put("name", machine)
            .put("clock", clock.instant().toString());
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
        return new Office(address, http, known, said);
    }

    private static IOException unreachable(URI address, IOException why) {
        for (Throwable cause = why; cause != null; cause = cause.getCause()) {
            if (String.valueOf(cause.getMessage()).contains(PinnedTrust.ANOTHER)) {
                return Fault.of(Fault.Kind.FORBIDDEN, address.toString(), "At " + address + " answers " + PinnedTrust.ANOTHER
                    + ". Nothing was told to it. Look at the address and the code on the Computers page; if both are right, somebody is "
                    + "between you and the office.").asException();
            }
        }
        return Fault.of(Fault.Kind.DEVICE_FAILED, address.toString(), "The office cannot be reached at " + address + " ("
            + (why.getMessage() == null ? "nothing answers there" : why.getMessage())
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

    String name() {
        return name;
    }

    URI address() {
        return address;
    }

    /** A line over TLS, with what this computer shows itself by. */
    CompletableFuture<WebSocket> line(WebSocket.Listener listener) {
        return http.newWebSocketBuilder().header("Authorization", "Bearer " + token).connectTimeout(PATIENCE)
            .buildAsync(URI.create("wss://" + address.getRawAuthority() + "/agents/channel"), listener);
    }

    /** A request below the office's address for agents, likewise. */
    HttpRequest.Builder request(String path) {
        return HttpRequest.newBuilder(address.resolve(path)).header("Authorization", "Bearer " + token).timeout(ANSWER);
    }

    HttpClient http() {
        return http;
    }

    /** For long pieces. */
    Bulk bulk() {
        return bulk;
    }
}
