using Shouldly;
using Xunit;

namespace Kingcup.Browser.Tests.Clients;

/// <summary>Where not everybody books by a name alone: somebody new shows an address to be theirs, and chooses a password later.</summary>
public sealed class NewByPhone : HouseWithStandIns
{
    private const string Email = "rue@example.com",
        Chosen = "sea-holly-and-thrift";

    [Fact]
    public async Task They_show_their_address_book_with_it_and_come_back_by_a_password()
    {
        using (Browser owner = new(Server))
        {
            owner.SignIn(Owner);
            owner.Find("//nav[@aria-label='Kingcup']");
            owner.Go("/setup/booking-page");
            owner.Press("//label[.='Anybody, by a name and an address']");
            owner.Press("//label[.='Clients who have shown who they are']");
            owner.Button("Save");
            owner.Says("Let somebody book, or say above that clients cannot book online.");
            owner.Press("//label[.='Clients who have shown who they are']");
            owner.Press("//label[.='New people who have shown that an address is theirs']");
            owner.Button("Save");
            owner.Says("✓ Saved.");
            owner.AxeFindsNothing();
        }

        using Browser phone = new(Server, 390, 844);
        phone.Go("/book");
        phone.Press("//button[contains(., 'Nutrition first 60')]");
        phone.Time("Thursday 4 March", "10:00");
        phone.Says("kept for you for");
        phone.Says("Here everybody books with an address that is theirs.");
        phone.Count("//label[.='Given name']").ShouldBe(0);
        phone.AxeFindsNothing();
        phone.Fill("E-mail address or telephone number", "rue");
        phone.Button("Send me a code");
        phone.Says("Enter the e-mail address");
        phone.Fill("E-mail address or telephone number", Email);
        phone.Button("Send me a code");
        phone.Fill("Code", await CodeAsync(Email));
        phone.Button("Go on");
        phone.Fill("Given name", "Rue");
        phone.AxeFindsNothing();
        phone.Reload();
        phone.Says("kept for you for");
        phone.Find("//input[@type='email' and @readonly]").GetAttribute("value").ShouldBe(Email);
        phone.Fill("Family name", "Sorrel");
        phone.Fill("Mobile", "020 910 0002");
        phone.Button("Book 10:00");
        phone.Says("Your visit is booked");

        // They are known from now on, and choose a password.
        phone.Go("/book/mine");
        phone.Says("Thursday 4 March, 10:00–11:00");
        phone.Button("Set a password");
        phone.Fill("New password", "short");
        phone.Button("Save the password");
        phone.Says("Choose a password of 10 characters or more.");
        phone.Fill("New password", Chosen);
        phone.Button("Save the password");
        phone.Says($"You can come in with {Email} and your password.");
        phone.AxeFindsNothing();
        phone.Button("Close on this device");
        phone.Button("I have a password");
        phone.AxeFindsNothing();
        phone.Fill("E-mail address or telephone number", Email);
        phone.Fill("Password", Chosen + "?");
        phone.Button("Show my bookings");
        phone.Says("Address and password do not go together.");
        phone.Fill("Password", Chosen);
        phone.Button("Show my bookings");
        phone.Says("Thursday 4 March, 10:00–11:00");
    }
}
