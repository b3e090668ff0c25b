using CsCheck;
using Kingcup.Core.Booking;
using Shouldly;
using Xunit;

namespace Kingcup.Core.Tests.Booking;

/// <summary>What of the last things somebody did can be undone.</summary>
public sealed class UndoingTests
{
    [Fact]
    public void The_last_twenty_things_can_be_undone_as_long_as_nobody_changed_them_since()
    {
        StepTrace[] untouched = [new(3, 3), new(1, 1)];
        Undoing.Of(isUndone: false, later: 19, untouched).ShouldBe(UndoAnswer.Undoes);
        Undoing.Of(isUndone: false, later: 20, untouched).ShouldBe(UndoAnswer.TooLongAgo);
        Undoing.Of(isUndone: true, later: 0, untouched).ShouldBe(UndoAnswer.AlreadyUndone);
        Undoing.Of(isUndone: false, later: 0, [new(3, 3), new(1, 2)]).ShouldBe(UndoAnswer.ChangedSince);
        Undoing.Of(isUndone: false, later: 0, [new(3, null)]).ShouldBe(UndoAnswer.ChangedSince);
    }

    /// <summary>Several people change some things in any order and undo what they did, now and then the wrong thing: whatever undoes
    /// brings back exactly what was there before, and nobody's later change is ever lost.</summary>
    [Fact]
    public void Whatever_is_undone_was_the_last_change_of_everything_it_touched() =>
        Gen.Select(Gen.Int[0, 2], Gen.Int[0, 3], Gen.Int[0, 9]).Array[0, 80].Sample(moves =>
        {
            int[] value = new int[4];
            long[] version = new long[4];
            List<(int Person, int Thing, int Before, long Left, bool Undone)> done = [];
            Dictionary<int, int> lastWriter = [];
            int next = 0;
            foreach ((int person, int thing, int choice) in moves)
            {
                if (choice < 6)
                {
                    done.Add((person, thing, value[thing], version[thing] + 1, false));
                    (value[thing], lastWriter[thing]) = (++next, done.Count - 1);
                    version[thing]++;
                    continue;
                }

                int[] own = [.. done.Index().Where(step => step.Item.Person == person).Select(step => step.Index)];
                if (own.Length == 0) continue;
                int place = own[^(1 + (choice % own.Length))];
                var step = done[place];
                int later = own.Count(other => other > place);
                UndoAnswer answer = Undoing.Of(step.Undone, later, [new StepTrace(step.Left, version[step.Thing])]);
                bool isLast = lastWriter[step.Thing] == place;
                (answer == UndoAnswer.Undoes).ShouldBe(!step.Undone && later < Undoing.MostSteps && isLast);
                if (answer != UndoAnswer.Undoes) continue;
                value[step.Thing] = step.Before;
                version[step.Thing]++;
                done[place] = step with { Undone = true };
                // What stood before stands again: the step that had led there can be undone next.
                int led = done.FindIndex(other => other.Thing == step.Thing && !other.Undone && other.Left == step.Left - 1);
                lastWriter[step.Thing] = led;
                if (led >= 0) done[led] = done[led] with { Left = version[step.Thing] };
            }
        });
}
