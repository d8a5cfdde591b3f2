package app.granary.server.agent;

import app.granary.core.agent.Protocol;
import app.granary.engine.inventory.InventoryText;
import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import java.io.IOException;
import java.util.Map;
import java.util.Optional;
import java.util.UUID;
import java.util.concurrent.ConcurrentHashMap;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.boot.autoconfigure.condition.ConditionalOnProperty;
import org.springframework.http.HttpStatus;
import org.springframework.http.server.ServerHttpRequest;
import org.springframework.http.server.ServerHttpResponse;
import org.springframework.scheduling.annotation.Scheduled;
import org.springframework.stereotype.Component;
import org.springframework.web.socket.CloseStatus;
import org.springframework.web.socket.TextMessage;
import org.springframework.web.socket.WebSocketHandler;
import org.springframework.web.socket.WebSocketSession;
import org.springframework.web.socket.handler.TextWebSocketHandler;
import org.springframework.web.socket.server.HandshakeInterceptor;

/**
 * The line an agent keeps to the office, by its token. What it tells is read as whatever a stranger sends: of bounded length, by the
 * readers of reports, and refused in a sentence when it is none.
 */
@Component
@ConditionalOnProperty("granary.listen")
class AgentChannel extends TextWebSocketHandler implements HandshakeInterceptor {
    private static final Logger LOG = LoggerFactory.getLogger(AgentChannel.class);
    private static final String AGENT = "agent";
    private static final String BEARER = "Bearer ";
    /** Of an agent's own making: whatever goes on against this is closed once, and told once. */
    static final CloseStatus REFUSED = CloseStatus.POLICY_VIOLATION;

    private final Agents agents;
    private final ObjectMapper json;
    private final Map<UUID, WebSocketSession> lines = new ConcurrentHashMap<>();

    AgentChannel(Agents agents, ObjectMapper json) {
        this.agents = agents;
        this.json = json;
    }

    @Override
    public boolean beforeHandshake(ServerHttpRequest request, ServerHttpResponse response, WebSocketHandler handler,
        Map<String, Object> attributes) {
        String shown = Optional.ofNullable(request.getHeaders().getFirst("Authorization")).orElse("");
        Optional<Agent> agent = shown.startsWith(BEARER) ? agents.of(shown.substring(BEARER.length())) : Optional.empty();
        agent.ifPresentOrElse(found -> attributes.put(AGENT, found), () -> response.setStatusCode(HttpStatus.UNAUTHORIZED));
        return agent.isPresent();
    }

    @Override
    public void afterHandshake(ServerHttpRequest request, ServerHttpResponse response, WebSocketHandler handler, Exception failed) {
    }

    private static Agent agent(WebSocketSession line) {
        return (Agent) line.getAttributes().get(AGENT);
    }

    @Override
    public void afterConnectionEstablished(WebSocketSession line) throws IOException {
        line.setTextMessageSizeLimit(Protocol.MOST_CHARACTERS);
        WebSocketSession before = lines.put(agent(line).id(), line);
        if (before != null) {
            before.close(CloseStatus.SESSION_NOT_RELIABLE); // the same computer, by another way
        }
        agents.heard(agent(line));
    }

    @Override
    protected void handleTextMessage(WebSocketSession line, TextMessage message) throws IOException {
        Agent agent = agent(line);
        if (agents.all().stream().noneMatch(each -> each == agent)) {
            line.close(REFUSED.withReason("sent away"));
            return;
        }
        try {
            JsonNode told = json.readTree(message.getPayload());
            switch (told.path("type").asText()) {
                case Protocol.BEAT -> agents.heard(agent);
                case Protocol.HERE -> agents.told(agent,
                    InventoryText.read(told.path("report").toString(), agent.name(), Optional.empty()).computers().get(0));
                default -> line.close(REFUSED.withReason("a message of no kind this office knows"));
            }
        } catch (IOException | RuntimeException unreadable) {
            LOG.warn("what {} told could not be read: {}", agent.name(), unreadable.getMessage());
            line.close(REFUSED.withReason("what was told could not be read"));
        }
    }

    @Override
    public void afterConnectionClosed(WebSocketSession line, CloseStatus status) {
        lines.remove(agent(line).id(), line);
    }

    /** Whoever was sent away hears nothing more. */
    @Scheduled(fixedDelay = 2_000)
    void endOfSentAway() throws IOException {
        for (WebSocketSession line : lines.values()) {
            if (agents.all().stream().noneMatch(each -> each == agent(line))) {
                line.close(REFUSED.withReason("sent away"));
            }
        }
    }
}
