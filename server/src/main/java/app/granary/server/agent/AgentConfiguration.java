package app.granary.server.agent;

import java.time.Clock;
import org.springframework.boot.autoconfigure.condition.ConditionalOnProperty;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;
import org.springframework.web.socket.config.annotation.EnableWebSocket;
import org.springframework.web.socket.config.annotation.WebSocketConfigurer;
import org.springframework.web.socket.config.annotation.WebSocketHandlerRegistry;

/** What agents come in by. */
@Configuration
class AgentConfiguration {
    @Bean
    JoinCodes joinCodes(Clock clock) {
        return new JoinCodes(clock);
    }

    /** Only where they are listened for. */
    @Configuration
    @EnableWebSocket
    @ConditionalOnProperty("granary.listen")
    static class Line implements WebSocketConfigurer {
        private final AgentChannel channel;

        Line(AgentChannel channel) {
            this.channel = channel;
        }

        @Override
        public void registerWebSocketHandlers(WebSocketHandlerRegistry registry) {
            registry.addHandler(channel, AgentPort.PATH + "channel").addInterceptors(channel);
        }
    }
}
