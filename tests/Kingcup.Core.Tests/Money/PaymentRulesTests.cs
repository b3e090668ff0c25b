using Kingcup.Core.Money;
using Shouldly;
using Xunit;

namespace Kingcup.Core.Tests.Money;

/// <summary>
/// Payments in worlds in which answers are lost, servers die between any two steps, clients leave or come back, and times run out: each
/// ends, with a visit for all the money that was kept, and without money for none.
/// </summary>
public sealed class PaymentRulesTests
{
    /// <summary>A gateway, a book and a client; whatever is asked for may be done, not done, or done with its answer lost.</summary>
    private sealed class World(Random random, bool takesMoney)
    {
        public PaymentState State { get; private set; } = PaymentState.Open;

        public CardState Card { get; private set; } = CardState.Open;

        public bool IsKept { get; private set; } = true;

        public bool IsOver { get; private set; }

        public int Visits { get; private set; }

        public int Taken { get; private set; }

        public int Refunded { get; private set; }

        public int Decided { get; private set; }

        public bool IsSettled => State is PaymentState.Booked or PaymentState.Ended;

        /// <summary>Something happens that nobody of ours has asked for.</summary>
        public void Happen()
        {
            switch (random.Next(6))
            {
                case 0 when Card is CardState.Open or CardState.Declined:
                    Card = CardState.Authorised;
                    break;
                case 1 when Card == CardState.Open:
                    Card = CardState.Ended;
                    break;
                case 2:
                    IsOver = true;
                    break;
                // Time that is not kept until it is settled runs out.
                case 3 when IsOver && State == PaymentState.Open:
                    IsKept = false;
                    break;
            }
        }

        /// <summary>A server looks at it and does what is next, or dies before, in the middle of it, or after.</summary>
        public void GoOn()
        {
            PaymentStep step = PaymentRules.Next(State, Card, takesMoney, IsOver);
            if (random.Next(4) == 0) return;
            switch (step)
            {
                case PaymentStep.Decide:
                    Decided++;
                    State = IsKept ? PaymentState.Charging : PaymentState.Returning;
                    break;
                case PaymentStep.Capture when Card == CardState.Authorised:
                    if (random.Next(5) == 0)
                    {
                        Card = CardState.Declined;
                        break;
                    }

                    Card = CardState.Captured;
                    Taken++;
                    break;
                case PaymentStep.Book:
                    State = IsKept && random.Next(20) > 0 ? PaymentState.Booked : PaymentState.Returning;
                    if (State == PaymentState.Booked) Visits++;
                    break;
                case PaymentStep.Release when Card is CardState.Open or CardState.Authorised or CardState.Declined:
                    Card = CardState.Ended;
                    break;
                case PaymentStep.Refund when Card == CardState.Captured:
                    Card = CardState.Refunded;
                    Refunded++;
                    break;
                case PaymentStep.End:
                    State = PaymentState.Ended;
                    break;
            }
        }
    }

    [Theory]
    [InlineData(true)]
    [InlineData(false)]
    public void Every_payment_ends_with_a_visit_for_the_money_or_none_for_none(bool takesMoney)
    {
        Random random = new(9);
        int booked = 0;
        for (int i = 0; i < 50_000; i++)
        {
            World world = new(random, takesMoney);
            for (int step = 0; step < 12; step++)
            {
                if (random.Next(2) == 0) world.Happen();
                else world.GoOn();
            }

            // In the end the clock has run out, and somebody goes on with it until it is settled.
            for (int step = 0; step < 400 && !world.IsSettled; step++)
            {
                if (!world.IsOver) world.Happen();
                world.GoOn();
            }

            world.IsSettled.ShouldBeTrue($"{world.State} and {world.Card}");
            (world.Taken - world.Refunded).ShouldBe(takesMoney ? world.Visits : 0);
            world.Visits.ShouldBe(world.State == PaymentState.Booked ? 1 : 0);
            world.Decided.ShouldBeLessThanOrEqualTo(1);
            if (world.State == PaymentState.Ended) world.Card.ShouldNotBe(CardState.Captured);
            booked += world.Visits;
        }

        booked.ShouldBeGreaterThan(1_000);
    }

    [Fact]
    public void Nothing_is_taken_before_it_is_decided_and_nothing_is_booked_before_it_is_taken()
    {
        foreach (CardState card in Enum.GetValues<CardState>())
            foreach (bool isOver in new[] { false, true })
            {
                PaymentRules.Next(PaymentState.Open, card, true, isOver).ShouldNotBeOneOf(PaymentStep.Capture, PaymentStep.Book);
                if (card != CardState.Captured) PaymentRules.Next(PaymentState.Charging, card, true, isOver).ShouldNotBe(PaymentStep.Book);
                PaymentRules.Next(PaymentState.Returning, card, true, isOver).ShouldNotBeOneOf(PaymentStep.Book, PaymentStep.Capture);
                PaymentRules.Next(PaymentState.Booked, card, true, isOver).ShouldBe(PaymentStep.Wait);
            }
    }
}
