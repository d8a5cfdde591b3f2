package app.granary.server.mail;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertFalse;
import static org.junit.jupiter.api.Assertions.assertThrows;
import static org.junit.jupiter.api.Assertions.assertTrue;
import static org.mockito.ArgumentMatchers.any;
import static org.mockito.Mockito.doThrow;
import static org.mockito.Mockito.mock;
import static org.mockito.Mockito.when;

import app.granary.server.problem.Refused;
import java.time.Clock;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.mockito.ArgumentCaptor;
import org.springframework.beans.factory.ObjectProvider;
import org.springframework.mail.MailSendException;
import org.springframework.mail.SimpleMailMessage;
import org.springframework.mail.javamail.JavaMailSender;

class OutboxTest {
    private final MailRepository mails = mock(MailRepository.class);
    private final JavaMailSender server = mock(JavaMailSender.class);
    @SuppressWarnings("unchecked")
    private final ObjectProvider<JavaMailSender> sender = mock(ObjectProvider.class);
    private final List<Mail> kept = new ArrayList<>();
    private final Outbox outbox = new Outbox(mails, new Mailer(mock(MailServers.class), sender,
        "granary@office.example"), Clock.systemUTC());

    @BeforeEach
    void keep() {
        when(mails.save(any())).thenAnswer(call -> {
            kept.remove(call.<Mail>getArgument(0));
            kept.add(call.getArgument(0));
            return call.getArgument(0);
        });
        when(sender.getIfAvailable()).thenReturn(server);
        when(sender.getObject()).thenReturn(server);
    }

    @Test
    void whatAMailServerTakesIsSent() {
        outbox.send(List.of("nell@office.example", "bram@office.example"), "Night", "All made.");
        ArgumentCaptor<SimpleMailMessage> message = ArgumentCaptor.forClass(SimpleMailMessage.class);
        org.mockito.Mockito.verify(server).send(message.capture());
        assertEquals(List.of("nell@office.example", "bram@office.example"), List.of(message.getValue().getTo()));
        assertEquals("granary@office.example", message.getValue().getFrom());
        assertTrue(kept.get(0).sent());
        assertEquals("", kept.get(0).trouble());
    }

    @Test
    void whatItRefusesIsKeptWithTheReasonAndCanBeSentAgain() {
        doThrow(new MailSendException("connection refused")).when(server).send(any(SimpleMailMessage.class));
        outbox.send(List.of("nell@office.example"), "Night", "All made.");
        assertFalse(kept.get(0).sent());
        assertTrue(kept.get(0).trouble().startsWith("The mail server did not take it: connection refused"), kept.get(0).trouble());
        org.mockito.Mockito.reset(server);
        when(mails.findById(7L)).thenReturn(Optional.of(kept.get(0)));
        assertTrue(outbox.again(7).sent());
        assertThrows(Refused.class, () -> outbox.again(8));
    }

    @Test
    void withoutAMailServerItIsKeptToBeRead() {
        when(sender.getIfAvailable()).thenReturn(null);
        outbox.send(List.of("nell@office.example"), "Night", "All made.");
        assertEquals("No mail server is set up; it is kept here to be read.", kept.get(0).trouble());
        org.mockito.Mockito.verifyNoInteractions(server);
    }
}
