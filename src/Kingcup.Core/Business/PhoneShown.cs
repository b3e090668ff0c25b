namespace Kingcup.Core.Business;

/// <summary>When the booking page shows the telephone number of the business.</summary>
public enum PhoneShown
{
    /// <summary>Always.</summary>
    Always,

    /// <summary>Only where there is nothing left to book, or somebody cannot book.</summary>
    WhenFull,

    /// <summary>Never.</summary>
    Never,
}
