using Dapper;
using Kingcup.Core.Booking;
using Kingcup.Core.Business;
using Kingcup.Core.Clients;
using Kingcup.Core.Forms;
using NodaTime;
using Npgsql;

namespace Kingcup.Storage;

/// <summary>A question with its version.</summary>
/// <param name="Question">The question.</param>
/// <param name="IsArchived">Whether it is no longer asked; answers given keep it.</param>
/// <param name="Version">Grows with every change.</param>
public sealed record ListedQuestion(Question Question, bool IsArchived = false, long Version = 1);

/// <summary>What clients accept, are asked, and where they are led, on the booking page.</summary>
public sealed record BookingPageRow
{
    /// <summary>Whether the business takes bookings online at all.</summary>
    public bool BookableOnline { get; init; } = true;

    /// <summary>Identity of the terms, or null when there are none.</summary>
    public long? TermsId { get; init; }

    /// <summary>The terms (Markdown), or empty.</summary>
    public string Terms { get; init; } = "";

    /// <summary>Where a client is led who has booked (https), or null.</summary>
    public string? AfterAddress { get; init; }

    /// <summary>What the button there says, or null.</summary>
    public string? AfterWords { get; init; }

    /// <summary>Whether they are led there at once.</summary>
    public bool AfterAtOnce { get; init; }

    /// <summary>How many visits booked online one person may have open at once.</summary>
    public int MostOpenOnline { get; init; } = 5;

    /// <summary>When the page shows the telephone number, as a name of <see cref="Core.Business.PhoneShown"/>.</summary>
    public string PhoneShown { get; init; } = nameof(Core.Business.PhoneShown.Always);

    /// <summary>How many people may come to one visit that is booked online.</summary>
    public int MostPeopleOnline { get; init; } = OnlineVisits.Usual.MostPeople;

    /// <summary>So many hours the desk has to answer what was asked for.</summary>
    public int AnswerHours { get; init; } = RequestRules.Usual.AnswerHours;

    /// <summary>So many hours a client has to choose what was proposed to them.</summary>
    public int ChooseHours { get; init; } = RequestRules.Usual.ChooseHours;

    /// <summary>Whether anybody books.</summary>
    public bool BooksGuests { get; init; } = BookingAccess.Usual.Guests;

    /// <summary>Whether new people book who have shown that an address is theirs.</summary>
    public bool BooksNew { get; init; } = BookingAccess.Usual.NewPeople;

    /// <summary>Whether clients book who have shown who they are.</summary>
    public bool BooksKnown { get; init; } = BookingAccess.Usual.KnownPeople;

    /// <summary>The sites that may show the booking page in a frame of theirs.</summary>
    public string[] FrameSites { get; init; } = [];

    /// <summary>Who books.</summary>
    public BookingAccess Access => new(BooksGuests, BooksNew, BooksKnown);

    /// <summary>How many may be open at once.</summary>
    public OpenBookings MostOpen => new(MostOpenOnline);

    /// <summary>What one visit may hold.</summary>
    public OnlineVisits Visits => new(MostPeopleOnline);

    /// <summary>How long what is asked for waits, and what is proposed is kept.</summary>
    public RequestRules Requests => new(AnswerHours, ChooseHours);
}

/// <summary>Questions and terms.</summary>
internal static class QuestionStore
{
    internal static async Task<IReadOnlyList<ListedQuestion>> QuestionsAsync(NpgsqlConnection connection)
    {
        ILookup<Guid, Guid> services = (
            await connection.QueryAsync<(Guid, Guid)>("SELECT question_id, service_id FROM question_service")
        ).ToLookup(row => row.Item1, row => row.Item2);
        return
        [
            .. (
                await connection.QueryAsync<QuestionRow>(
                    "SELECT id, text, hint, kind, choices, required, position, archived, version FROM question ORDER BY position, text"
                )
            ).Select(row => new ListedQuestion(
                new Question
                {
                    Id = row.Id,
                    Text = row.Text,
                    Hint = row.Hint,
                    Kind = Enum.Parse<QuestionKind>(row.Kind),
                    Choices = row.Choices,
                    Required = row.Required,
                    Order = row.Position,
                    Services = services[row.Id].ToHashSet(),
                },
                row.Archived,
                row.Version))];
    }

    internal static Task<BookingPageRow> PageAsync(NpgsqlConnection connection) =>
        connection.QuerySingleAsync<BookingPageRow>(
            """
            SELECT b.bookable_online, b.terms_id, coalesce(t.text, '') AS terms, b.after_address, b.after_words, b.after_at_once,
                b.most_open_online, b.most_people_online, b.answer_hours, b.choose_hours, b.books_guests, b.books_new, b.books_known,
                b.frame_sites, b.phone_shown
            FROM business b LEFT JOIN terms t ON t.id = b.terms_id
            """
        );

    private sealed class QuestionRow
    {
        public Guid Id { get; init; }
        public string Text { get; init; } = "";
        public string Hint { get; init; } = "";
        public string Kind { get; init; } = "";
        public string[] Choices { get; init; } = [];
        public bool Required { get; init; }
        public int Position { get; init; }
        public bool Archived { get; init; }
        public long Version { get; init; }
    }
}

/// <summary>Writes questions and terms.</summary>
public sealed partial class SetupWriter
{
    /// <summary>Saves a question with the services it is asked for.</summary>
    public async Task SaveAsync(ListedQuestion listed)
    {
        Question question = listed.Question;
        await _connection.ExecuteAsync(
            """
            INSERT INTO question (id, text, hint, kind, choices, required, position, archived)
                VALUES (@Id, @Text, @Hint, @Kind, @Choices, @Required, @Order, @IsArchived)
            ON CONFLICT (id) DO UPDATE SET text = @Text, hint = @Hint, kind = @Kind, choices = @Choices, required = @Required,
                position = @Order, archived = @IsArchived,
                version = question.version + 1;
            DELETE FROM question_service WHERE question_id = @Id;
            INSERT INTO question_service (question_id, service_id) SELECT @Id, one FROM unnest(@Services) AS one;
            """,
            new
            {
                question.Id,
                question.Text,
                question.Hint,
                Kind = question.Kind.ToString(),
                Choices = question.Choices.ToArray(),
                question.Required,
                question.Order,
                listed.IsArchived,
                Services = question.Services.ToArray(),
            });
    }

    /// <summary>Puts questions in an order.</summary>
    public Task OrderQuestionsAsync(IReadOnlyList<Guid> ids) =>
        _connection.ExecuteAsync(
            "UPDATE question SET position = one.place FROM unnest(@Ids) WITH ORDINALITY AS one(id, place) WHERE question.id = one.id",
            new { Ids = ids.ToArray() }
        );

    /// <summary>Saves what clients accept and where they are led; terms that were changed are new terms, those accepted before
    /// stay.</summary>
    /// <param name="page">What is saved; its terms by their text.</param>
    /// <param name="before">What stood before.</param>
    /// <param name="now">The present.</param>
    public async Task SaveAsync(BookingPageRow page, BookingPageRow before, Instant now)
    {
        long? terms = page.Terms.Length == 0 ? null
            : page.Terms == before.Terms ? before.TermsId
            : await _connection.ExecuteScalarAsync<long>(
                "INSERT INTO terms (at, text) VALUES (@now, @Terms) RETURNING id",
                new { now, page.Terms }
            );
        await _connection.ExecuteAsync(
            """
            UPDATE business SET bookable_online = @BookableOnline, terms_id = @terms, after_address = @AfterAddress,
                after_words = @AfterWords, after_at_once = @AfterAtOnce,
                most_open_online = @MostOpenOnline, most_people_online = @MostPeopleOnline,
                answer_hours = @AnswerHours, choose_hours = @ChooseHours,
                books_guests = @BooksGuests, books_new = @BooksNew, books_known = @BooksKnown,
                frame_sites = @FrameSites, phone_shown = @PhoneShown,
                version = version + 1, setup_revision = setup_revision + 1
            """,
            new
            {
                page.BookableOnline,
                terms,
                page.AfterAddress,
                page.AfterWords,
                page.AfterAtOnce,
                page.MostOpenOnline,
                page.MostPeopleOnline,
                page.AnswerHours,
                page.ChooseHours,
                page.BooksGuests,
                page.BooksNew,
                page.BooksKnown,
                page.FrameSites,
                page.PhoneShown,
            });
    }
}
