package app.granary.server.agent;

import app.granary.core.agent.Protocol;
import app.granary.engine.line.LineJson;
import app.granary.engine.line.Message;
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
import org.springframework.web.socket.handler.ConcurrentWebSocketSessionDecorator;
import org.springframework.web.socket.handler.TextWebSocketHandler;
import org.springframework.web.socket.server.HandshakeInterceptor;

/**
 * The line an agent keeps to the office, by its token. What it tells is read as whatever a stranger sends: of bounded length, as no
 * type but those of messages, and refused in a sentence when it is none.
 */
@Component
@ConditionalOnProperty("granary.listen")
class AgentChannel extends TextWebSocketHandler implements HandshakeInterceptor {
    private static final Logger LOG = LoggerFactory.getLogger(AgentChannel.class);
    private static final String AGENT = "agent";
    private static final String PARTS = "parts";
    private static final int SEND_MILLIS = 30_000;
    /** Of an agent's own making: whatever goes on against this is closed once, and told once. */
    static final CloseStatus REFUSED = CloseStatus.POLICY_VIOLATION;

    private final Agents agents;
    private final AgentsHere here;
    private final Networks networks;
    private final Map<UUID, WebSocketSession> lines = new ConcurrentHashMap<>();

    AgentChannel(Agents agents, AgentsHere here, Networks networks) {
        this.networks = networks;
        this.here = here;
        this.agents = agents;
    }

    @Override
    public boolean beforeHandshake(ServerHttpRequest request, ServerHttpResponse response, WebSocketHandler handler,
        Map<String, Object> attributes) {
        Optional<Agent> agent = here.shownBy(request.getHeaders().getFirst("Authorization"));
        agent.ifPresentOrElse(found -> attributes.put(AGENT, found), () -> response.setStatusCode(HttpStatus.UNAUTHORIZED));
        attributes.put(PARTS, new StringBuilder());
        return agent.isPresent();
    }

    @Override
    public void afterHandshake(ServerHttpRequest request, ServerHttpResponse response, WebSocketHandler handler, Exception failed) {
    }

    private static Agent agent(WebSocketSession line) {
        return (Agent) line.getAttributes().get(AGENT);
    }

    /** Long messages come in parts, so that no buffer is as long as the longest. */
    @Override
    public boolean supportsPartialMessages() {
        return true;
    }

    @Override
    public void afterConnectionEstablished(WebSocketSession session) throws IOException {
        Agent agent = agent(session);
        WebSocketSession line = new ConcurrentWebSocketSessionDecorator(session, SEND_MILLIS, Protocol.MOST_CHARACTERS * 2);
        WebSocketSession before = lines.put(agent.id(), line);
        if (before != null) {
            before.close(CloseStatus.SESSION_NOT_RELIABLE); // the same computer, by another way
        }
        here.heard(agent);
        agent.host().over(message -> send(line, message));
    }

    /** What cannot be sent is told again when the line is taken up anew. */
    private static void send(WebSocketSession line, Message message) {
        try {
            line.sendMessage(new TextMessage(LineJson.text(message)));
        } catch (IOException | RuntimeException broken) {
            LOG.debug("a message was not sent", broken);
        }
    }

    @Override
    protected void handleTextMessage(WebSocketSession line, TextMessage part) throws IOException {
        Agent agent = agent(line);
        if (!here.knows(agent)) {
            line.close(REFUSED.withReason("sent away"));
            return;
        }
        StringBuilder parts = (StringBuilder) line.getAttributes().get(PARTS);
        if (parts.length() + part.getPayloadLength() > Protocol.MOST_CHARACTERS) {
            refuse(line, agent, "a message longer than " + Protocol.MOST_CHARACTERS + " characters");
            return;
        }
        parts.append(part.getPayload());
        if (part.isLast()) {
            String text = parts.toString();
            parts.setLength(0);
            parts.trimToSize();
            hear(line, agent, text);
        }
    }

    private void hear(WebSocketSession line, Agent agent, String text) throws IOException {
        try {
            Message told = LineJson.message(text);
            here.heard(agent);
            agent.host().hear(told);
            if (told instanceof Message.Beat || told instanceof Message.Here) {
                send(lines.getOrDefault(agent.id(), line), new Message.Beat()); // so that it knows that the line still carries
            }
            if (told instanceof Message.Measured measured) {
                networks.measured(agent, measured.network());
            }
            if (told instanceof Message.Typed typed) {
                agents.typed(agent, typed);
            }
            if (told instanceof Message.Here) {
                agents.told(agent);
            }
        } catch (IOException | RuntimeException unreadable) {
            refuse(line, agent, unreadable.getMessage());
        }
    }

    private static void refuse(WebSocketSession line, Agent agent, String why) throws IOException {
        LOG.warn("what {} told could not be read: {}", agent.name(), why);
        line.close(REFUSED.withReason("what was told could not be read"));
    }

    @Override
    public void afterConnectionClosed(WebSocketSession session, CloseStatus status) {
        Agent agent = agent(session);
        lines.computeIfPresent(agent.id(), (id, line) -> {
            if (!((ConcurrentWebSocketSessionDecorator) line).getDelegate().equals(session)) {
                return line;
            }
            agent.host().broken();
            return null;
        });
    }

    /** Whoever was sent away hears nothing more, and a line on which nothing is heard is none: a cable that was pulled tells nobody. */
    @Scheduled(fixedDelay = 2_000)
    void endOfLines() throws IOException {
        for (WebSocketSession line : lines.values()) {
            if (!here.knows(agent(line))) {
                line.close(REFUSED.withReason("sent away"));
            } else if (here.silent(agent(line))) {
                line.close(CloseStatus.SESSION_NOT_RELIABLE);
                agent(line).host().broken();
            }
        }
    }
}
