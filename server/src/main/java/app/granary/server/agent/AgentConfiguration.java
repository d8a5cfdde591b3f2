package app.granary.server.agent;

import app.granary.engine.host.Host;
import app.granary.engine.hosts.ManyHosts;
import java.time.Clock;
import org.springframework.beans.factory.annotation.Qualifier;
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

    /**
     * The office's own machine and all that joined. Under the names the office has for their disks it is the host everyone else works with.
     */
    @Bean
    Host machine(@Qualifier("ownMachine") Host own, AgentsHere here, Lendings lendings) {
        return new ManyHosts(own, here::members, lendings);
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
