/**
 * What reps and managers type, and what they mean by it, as questions are written out. The organisation of the tests
 * counts years by its fiscal year, writes days first, and asks on 19 November 2026.
 */
export const phrasings = `
# The objects, in one word or another
deals => All deals
all deals => All deals
show me all leads => All leads
list contacts => All contacts
companies => All accounts
opportunities => All deals
customers => Accounts where relationship is Customer
prospects => Accounts where relationship is Prospect
clients => Accounts where relationship is Customer
partners => Accounts where relationship is Partner
former customers => Accounts where relationship is Former customer
people => All contacts
enquiries => All leads
tasks => Activities where type is Task
calls => Activities where type is Call
meetings => Activities where type is Meeting
emails => All emails
what deals do we have => All deals

# How they stand
open deals => Deals where outcome is Open
won deals => Deals where outcome is Won
lost deals => Deals where outcome is Lost
closed deals => Deals where outcome is any of Won or Lost
deals won => Deals where outcome is Won
deals that are open => Deals where outcome is Open
deals not won => Deals where outcome is none of Won
deals that are not lost => Deals where outcome is none of Lost
open or won deals => Deals where outcome is any of Open or Won
won and lost deals => Deals where outcome is any of Won or Lost
untouched leads => Leads where status is Untouched
leads being worked => Leads where status is Working
qualified leads => Leads where status is Qualified
converted leads => Leads where status is Converted
disqualified leads => Leads where status is Disqualified
leads that are not converted => Leads where status is none of Converted
working or waiting leads => Leads where status is any of Working or Waiting for them
open tasks => Activities where type is Task and done is empty
done tasks => Activities where type is Task and done is not empty
overdue tasks => Activities where type is Task and done is empty and due is before today
overdue deals => Deals where outcome is Open and close date is before today
high priority tasks => Activities where type is Task and priority is High
unfinished calls => Activities where type is Call and done is empty
deals that need attention => Deals where needs attention is yes
stale deals => Deals where longer in stage than usual is yes
deals stuck in their stage => Deals where longer in stage than usual is yes

# Whose
my deals => Deals where owner is me
my open deals => Deals where outcome is Open and owner is me
my team's open deals => Deals where outcome is Open and owner is my team
Nora's deals => Deals where owner is Nora Fairlough
deals owned by Nora Fairlough => Deals where owner is Nora Fairlough
leads of Davin => Leads where owner is Davin Marchbank
leads assigned to me => Leads where owner is me
deals with Nora => Deals where owner is Nora Fairlough
Nora's and Davin's open deals => Deals where outcome is Open and owner is any of Nora Fairlough or Davin Marchbank
open deals of Nora or Davin => Deals where outcome is Open and owner is any of Nora Fairlough or Davin Marchbank
deals of the coast team => Deals where owner’s team is Harbours & Coast
deals not owned by me => Deals where owner is none of me
unassigned leads => Leads where owner is empty
leads without an owner => Leads where owner is empty
what is Tamsin working on => Deals where outcome is Open and owner is Tamsin Rudd
calls by Nora last week => Activities where type is Call and done by is Nora Fairlough and done is in last week
Nora's calls today => Activities where type is Call and who is Nora Fairlough and due is in today
tasks for Davin => Activities where type is Task and who is Davin Marchbank
deals except mine => Deals where owner is none of me

# How much
deals over 25k => Deals where value is above £25,000
deals above 25,000 => Deals where value is above £25,000
deals worth more than 1.5m => Deals where value is above £1,500,000
open deals over £25k => Deals where outcome is Open and value is above £25,000
deals under 5k => Deals where value is below £5,000
deals below 10 000 => Deals where value is below £10,000
deals of at least 50k => Deals where value is at least £50,000
deals up to 20k => Deals where value is at most £20,000
deals between 10k and 20k => Deals where value is between £10,000 and £20,000
deals from 10k to 20k => Deals where value is between £10,000 and £20,000
deals over 300k SEK => Deals where value is above SEK 300,000
deals over €25k => Deals where value is above EUR 25,000
deals over 40,000 euros => Deals where value is above EUR 40,000
deals > 10k => Deals where value is above £10,000
deals >= 10k => Deals where value is at least £10,000
deals with value below 3000 => Deals where value is below £3,000
leads with a budget over 20k => Leads where budget is above £20,000
leads over 20k => Leads where budget is above £20,000
weighted value over 10k => Deals where weighted value is above £10,000
leads with a score above 50 => Leads where score is above 50
leads scoring at least 60 => Leads where score is at least 60
deals pushed more than twice => Deals where times pushed is above 2
deals pushed at least 3 times => Deals where times pushed is at least 3
pushed deals => Deals where times pushed is above 0
deals never pushed => Deals where times pushed is 0
deals older than 90 days => Deals where age in days is above 90
deals over 30 days in stage => Deals where days in stage is above 30
deals in their stage for more than 30 days => Deals where days in stage is above 30
deals without a value => Deals where value is empty
deals with no value => Deals where value is empty
deals with probability over 50% => Deals where own probability is above 50

# When
deals closing this month => Deals where close date is in this month
deals closing this quarter => Deals where close date is in this fiscal quarter
deals closing next quarter => Deals where close date is in next fiscal quarter
deals closing this calendar quarter => Deals where close date is in this quarter
deals expected to close next month => Deals where close date is in next month
open deals due to close in the next 30 days => Deals where outcome is Open and close date is in the next 30 days
deals won this year => Deals where outcome is Won and closed on is in this fiscal year
deals won this fiscal year => Deals where outcome is Won and closed on is in this fiscal year
deals won this calendar year => Deals where outcome is Won and closed on is in this year
deals won last month => Deals where outcome is Won and closed on is in last month
deals lost last quarter => Deals where outcome is Lost and closed on is in last fiscal quarter
deals lost since March => Deals where outcome is Lost and closed on is on or after 1 Mar 2026
deals closed in October => Deals where closed on is between 1 Oct 2026 and 31 Oct 2026
deals closed in 2025 => Deals where closed on is between 1 Jan 2025 and 31 Dec 2025
deals won in March 2025 => Deals where outcome is Won and closed on is between 1 Mar 2025 and 31 Mar 2025
deals won in Q1 => Deals where outcome is Won and closed on is between 1 Apr 2026 and 30 Jun 2026
deals won in Q2 2025 => Deals where outcome is Won and closed on is between 1 Jul 2025 and 30 Sept 2025
deals won yesterday => Deals where outcome is Won and closed on is in yesterday
deals won this week => Deals where outcome is Won and closed on is in this week
deals won in the last 12 months => Deals where outcome is Won and closed on is in the last 12 months
deals won year to date => Deals where outcome is Won and closed on is in this fiscal year, to date
deals won so far this year => Deals where outcome is Won and closed on is in this fiscal year, to date
deals this quarter => Deals where close date is in this fiscal quarter
leads this month => Leads where created is in this month
leads created in the last 60 days => Leads where created is in the last 60 days
leads from the past 2 weeks => Leads where created is in the last 2 weeks
new leads this week => Leads where created is in this week
deals created since January => Deals where created is on or after 1 Jan 2026
deals created after 1 October => Deals where created is after 1 Oct 2026
deals created before 2026-06-01 => Deals where created is before 1 Jun 2026
deals closing before 12 December => Deals where close date is before 12 Dec 2026
deals closing on 12 Dec => Deals where close date is 12 Dec 2026
deals closing by 31 December => Deals where close date is on or before 31 Dec 2026
deals closing 10/12 => Deals where close date is 10 Dec 2026
deals closing after 10/12/2026 => Deals where close date is after 10 Dec 2026
deals closing between 1 Oct and 15 Nov => Deals where close date is between 1 Oct 2026 and 15 Nov 2026
deals closing today => Deals where close date is in today
deals without a close date => Deals where close date is empty
tasks due today => Activities where type is Task and due is in today
tasks due this week => Activities where type is Task and due is in this week
my tasks for today => Activities where type is Task and who is me and due is in today
tasks due tomorrow => Activities where type is Task and due is in tomorrow
calls done yesterday => Activities where type is Call and done is in yesterday
calls last week => Activities where type is Call and done is in last week
meetings next week => Activities where type is Meeting and due is in next week
meetings held last month => Activities where type is Meeting and done is in last month
activities done in the last 7 days => Activities where done is in the last 7 days
emails sent last week => Emails where direction is Sent and sent is in last week
emails received today => Emails where direction is Received and sent is in today
contacts updated last week => Contacts where changed is in last week
leads converted this quarter => Leads where converted is in this fiscal quarter
accounts created this year => Accounts where created is in this fiscal year
leads older than 30 days => Leads where age in days is above 30
leads created 3 days ago => Leads where created is 3 days ago

# Where from, what kind
leads from trade fairs => Leads where source is Trade fair
leads from the website => Leads where source is Website
deals from referrals => Deals where source is Referral
leads not from the website => Leads where source is none of Website
leads from the website or a referral => Leads where source is any of Website or Referral
accounts in Sweden => Accounts where country is Sweden
accounts in Sweden or Norway => Accounts where country is any of Sweden or Norway
leads in Germany => Leads where country is Germany
contacts from Denmark => Contacts where country is Denmark
deals in Sweden => Deals where account’s country is Sweden
accounts not in Sweden => Accounts where country is none of Sweden
accounts outside the United Kingdom => Accounts where country is none of United Kingdom
accounts in retail => Accounts where industry is Retail and wholesale
deals in finance => Deals where account’s industry is Finance and insurance
manufacturing accounts => Accounts where industry is Manufacturing
deals in survey booked => Deals where stage is Survey booked
deals in stage proposal out => Deals where stage is Proposal out
deals in the renewals pipeline => Deals where pipeline is Renewals
deals in proposal out or terms agreed => Deals where stage is any of Proposal out or Terms agreed
deals not in survey booked => Deals where stage is none of Survey booked
deals lost on price => Deals where outcome is Lost and lost because is Price
deals lost because of timing => Deals where outcome is Lost and lost because is Wrong time
calls with no answer => Activities where type is Call and outcome is No answer
calls without an outcome => Activities where type is Call and outcome is empty
incoming calls => Activities where type is Call and direction is Incoming
contacts tagged vip => Contacts where tags is “vip”
leads with tag fair2026 => Leads where tags is “fair2026”
contacts on the list Spring fair => Contacts where list is Spring fair
contacts not on the list Spring fair => Contacts where list is none of Spring fair
contacts in Spring fair => Contacts where list is Spring fair
accounts in town Bergen => Accounts where town is “Bergen”
contacts with role buyer => Contacts where role is “buyer”
accounts named harbour => Accounts where name contains “harbour”
deals containing sensor => Deals where name contains “sensor”
accounts starting with North => Accounts where name starts with “North”
accounts whose name contains "port authority" => Accounts where name contains “port authority”

# With and without
contacts without email => Contacts where email is empty
contacts with no phone => Contacts where phone is empty
contacts with an email => Contacts where email is not empty
contacts with email but no phone => Contacts where email is not empty and phone is empty
accounts without industry => Accounts where industry is empty
accounts missing a country => Accounts where country is empty
leads without a source => Leads where source is empty
deals without an account => Deals where account is empty
accounts with no activity in 60 days => Accounts where there are no activities where done is in the last 60 days
accounts without activity in the last 3 months => Accounts where there are no activities where done is in the last 3 months
accounts in Sweden with no activity in 60 days => Accounts where country is Sweden and (there are no activities where done is in the last 60 days)
leads with no calls => Leads where there are no activities where type is Call
deals with no meetings => Deals where there are no activities where type is Meeting
deals with at least 2 meetings => Deals where there are activities where type is Meeting, their number at least 2
accounts with open deals => Accounts where there are deals where outcome is Open
accounts with no open deals => Accounts where there are no deals where outcome is Open
customers without open deals => Accounts where relationship is Customer and (there are no deals where outcome is Open)
accounts with more than 3 open deals => Accounts where there are deals where outcome is Open, their number above 3
accounts with a won deal over 50k => Accounts where there are deals where (outcome is Won and value is above £50,000)
contacts with an open deal over 10,000 => Contacts where there are deals where (outcome is Open and value is above £10,000)
accounts without contacts => Accounts where there are no contacts
accounts with contacts but without deals => Accounts where there are contacts and there are no deals
accounts with deals won this year => Accounts where there are deals where (outcome is Won and closed on is in this fiscal year)
deals with no next step => Deals where there are no activities where done is empty
open deals without a next step => Deals where outcome is Open and (there are no activities where done is empty)
leads without next step => Leads where there are no activities where done is empty
deals with a planned activity => Deals where there are activities where done is empty
accounts whose last deal was lost => Accounts where the latest of its deals by closed on is one where outcome is Lost
accounts not touched in 90 days => Accounts where none of (last touch is in the last 90 days)
contacts I have not touched in 30 days => Contacts where none of (last touch is in the last 30 days)
contacts without emails in 60 days => Contacts where there are no emails where sent is in the last 60 days

# And, or, not
open deals over 25k closing this quarter => Deals where outcome is Open and value is above £25,000 and close date is in this fiscal quarter
open deals in Sweden over 25k => Deals where outcome is Open and account’s country is Sweden and value is above £25,000
my open deals over 10k closing this month => Deals where outcome is Open and owner is me and value is above £10,000 and close date is in this month
deals in Sweden or over 50k => Deals where account’s country is Sweden or value is above £50,000
open deals in Sweden or over 50k => Deals where outcome is Open and (account’s country is Sweden or value is above £50,000)
open deals not closing this quarter => Deals where outcome is Open and none of (close date is in this fiscal quarter)
open deals but not in proposal out => Deals where outcome is Open and stage is none of Proposal out
leads from trade fairs in Germany => Leads where source is Trade fair and country is Germany
untouched leads from the website this week => Leads where status is Untouched and source is Website and created is in this week
deals won by Nora this quarter => Deals where outcome is Won and owner is Nora Fairlough and closed on is in this fiscal quarter
deals lost to price over 20k last year => Deals where outcome is Lost and lost because is Price and value is above £20,000 and closed on is in last fiscal year
high priority tasks due this week for me => Activities where type is Task and priority is High and due is in this week and who is me
deals neither won nor lost => Deals where outcome is none of Won or Lost

# By
deals by owner => All deals, grouped by owner
open deals by stage => Deals where outcome is Open, grouped by stage
open deals per rep => Deals where outcome is Open, grouped by owner
deals by pipeline => All deals, grouped by pipeline
won deals by month => Deals where outcome is Won, grouped by closed on by month
leads by source => All leads, grouped by source
leads by status and owner => All leads, grouped by status and owner
deals by owner then month => All deals, grouped by owner and close date by month
open deals by close month => Deals where outcome is Open, grouped by close date by month
deals by account country => All deals, grouped by account’s country
deals by country => All deals, grouped by account’s country
deals by industry => All deals, grouped by account’s industry
lost deals by reason => Deals where outcome is Lost, grouped by lost because
deals by team => All deals, grouped by owner’s team
calls by outcome => Activities where type is Call, grouped by outcome
activities by type => All activities, grouped by type
calls by person last month => Activities where type is Call and done is in last month, grouped by who
tasks by completion => Activities where type is Task, grouped by done by day
leads created by week => All leads, grouped by created by week
accounts by relationship => All accounts, grouped by relationship
won deals by quarter => Deals where outcome is Won, grouped by closed on by fiscal quarter
won deals by year => Deals where outcome is Won, grouped by closed on by fiscal year
deals for each stage => All deals, grouped by stage

# How many, how much in all
how many open deals => Deals where outcome is Open, showing number of deals
number of leads => All leads, showing number of leads
count of deals by stage => All deals, grouped by stage, showing number of deals
how many leads did we get last month => Leads where created is in last month, showing number of leads
value by rep this fiscal quarter => Deals where close date is in this fiscal quarter, grouped by owner, showing sum of value
value of open deals => Deals where outcome is Open, showing sum of value
total value of deals won this year => Deals where outcome is Won and closed on is in this fiscal year, showing sum of value
won value by owner => Deals where outcome is Won, grouped by owner, showing sum of value
sum of value of open deals by stage => Deals where outcome is Open, grouped by stage, showing sum of value
average value of won deals => Deals where outcome is Won, showing average of value
average deal size by owner => All deals, grouped by owner, showing average of value
median value of open deals => Deals where outcome is Open, showing median of value
weighted value by owner => All deals, grouped by owner, showing sum of weighted value
weighted pipeline by stage => Deals where outcome is Open, grouped by stage, showing sum of weighted value
pipeline by stage => Deals where outcome is Open, grouped by stage, showing sum of value
pipeline value => Deals where outcome is Open, showing sum of value
revenue by month => Deals where outcome is Won, grouped by closed on by month, showing sum of value
how much did we win last month => Deals where outcome is Won and closed on is in last month, showing sum of value
how much did Nora win this year => Deals where outcome is Won and owner is Nora Fairlough and closed on is in this fiscal year, showing sum of value
largest open deal => Deals where outcome is Open, in order of value highest first, the first 1
average days in stage of open deals => Deals where outcome is Open, showing average of days in stage
number and value of open deals by owner => Deals where outcome is Open, grouped by owner, showing number of deals and sum of value

# In order, the first
top 10 deals by value => All deals, in order of value highest first, the first 10
top 5 open deals => Deals where outcome is Open, in order of value highest first, the first 5
biggest 5 deals won this year => Deals where outcome is Won and closed on is in this fiscal year, in order of value highest first, the first 5
newest leads => All leads, in order of created latest first
latest 20 leads => All leads, in order of created latest first, the first 20
oldest open deals => Deals where outcome is Open, in order of created earliest first
open deals sorted by value => Deals where outcome is Open, in order of value lowest first
open deals ordered by close date => Deals where outcome is Open, in order of close date earliest first
accounts alphabetically => All accounts, in order of name
top 5 accounts by won value => Deals where outcome is Won, grouped by account, showing sum of value, the first 5 by sum of value
top 3 owners by open value => Deals where outcome is Open, grouped by owner, showing sum of value, the first 3 by sum of value

# Who has most of something
who has the most open deals => Deals where outcome is Open, grouped by owner, showing number of deals, the first 10 by number of deals
who won the most deals this year => Deals where outcome is Won and closed on is in this fiscal year, grouped by owner, showing number of deals, the first 10 by number of deals
who won the most this year? => Deals where outcome is Won and closed on is in this fiscal year, grouped by owner, showing sum of value, the first 10 by sum of value
which rep made the fewest calls last week => Activities where type is Call and done is not empty and done is in last week, grouped by who, showing number of activities, the last 10 by number of activities
who has the most overdue tasks => Activities where type is Task and done is empty and due is before today, grouped by who, showing number of activities, the first 10 by number of activities
who owns the most leads => All leads, grouped by owner, showing number of leads, the first 10 by number of leads
who has the least pipeline => Deals where outcome is Open, grouped by owner, showing sum of value, the last 10 by sum of value
who lost the most deals since March => Deals where outcome is Lost and closed on is on or after 1 Mar 2026, grouped by owner, showing number of deals, the first 10 by number of deals

# How late
tasks overdue by more than 2 weeks => Activities where type is Task and done is empty and due is before 14 days ago
tasks more than two weeks overdue => Activities where type is Task and done is empty and due is before 14 days ago
tasks 3 days overdue => Activities where type is Task and done is empty and due is on or before 3 days ago
deals overdue for over a month => Deals where outcome is Open and close date is before 30 days ago
my tasks overdue by at least 10 days => Activities where type is Task and who is me and done is empty and due is on or before 10 days ago
leads never touched => Leads where first touched is empty
never contacted leads from Norway => Leads where first touched is empty and country is Norway
decisions last month => Activities where type is Decision and done is in last month

# Drawn
open deals over 25k closing this quarter by owner as columns => Deals where outcome is Open and value is above £25,000 and close date is in this fiscal quarter, grouped by owner, as columns
won deals by month as a line => Deals where outcome is Won, grouped by closed on by month, as a line
leads by source as bars => All leads, grouped by source, as bars
deals by owner and stage as a pivot => All deals, grouped by owner and stage, as a pivot
chart of leads by source => All leads, grouped by source, as columns
open deals as a table => Deals where outcome is Open, as a table

# Against another time, at another moment
won value by month compared with last year => Deals where outcome is Won, grouped by closed on by month, showing sum of value, compared with the year before
won value this quarter against last quarter => Deals where outcome is Won and closed on is in this fiscal quarter, showing sum of value, compared with the period before
leads by source this year vs last year => Leads where created is in this fiscal year, grouped by source, compared with the year before
open deals as it stood on 1 October => Deals where outcome is Open, as it stood on 1 Oct 2026
open deals by stage as of 1 October => Deals where outcome is Open, grouped by stage, as it stood on 1 Oct 2026
open pipeline by owner at the end of last month => Deals where outcome is Open, grouped by owner, showing sum of value, as it stood at the end of last month
my open deals a year ago => Deals where outcome is Open and owner is me, as it stood 365 days ago

# As they came up later
deals in Sweden, Norway and Denmark => Deals where account’s country is any of Sweden, Norway or Denmark
deals won in October and November => Deals where outcome is Won and (closed on is between 1 Oct 2026 and 31 Oct 2026 or closed on is between 1 Nov 2026 and 30 Nov 2026)
deals in any stage but survey booked => Deals where stage is none of Survey booked
open deals of everyone but me => Deals where outcome is Open and owner is none of me
deals closing within 30 days => Deals where close date is in the next 30 days
deals won in the first quarter => Deals where outcome is Won and closed on is between 1 Apr 2026 and 30 Jun 2026
deals by value descending => All deals, in order of value highest first
accounts never contacted => Accounts where last touch is empty
deals whose account is in Sweden => Deals where account’s country is Sweden
renewals closing this quarter => Deals where pipeline is Renewals and close date is in this fiscal quarter
10k+ deals => Deals where value is at least £10,000
win rate by owner => All deals, grouped by owner, with the win rate
win rate this year compared with last year => Deals where closed on is in this fiscal year, with the win rate, compared with the year before
deals with more than 3 wheels over 10k by owner => Deals where value is above £10,000, grouped by owner [not read: more than 3 wheels]
leads from referrals or trade fairs not yet converted => Leads where source is any of Referral or Trade fair and status is none of Converted

# Misspelt, or in other clothes
opne deals => Deals where outcome is Open
deals closing this quater => Deals where close date is in this fiscal quarter
acounts in Sweeden => Accounts where country is Sweden
leads from trade fiars => Leads where source is Trade fair
deals ownd by Nora => Deals where owner is Nora Fairlough
OPEN DEALS OVER 25K => Deals where outcome is Open and value is above £25,000
  open   deals ,  over 25k  => Deals where outcome is Open and value is above £25,000
can you show me my open deals please => Deals where outcome is Open and owner is me

# Who did what, and other ways to put it
leads nobody has called yet => Leads where there are no activities where (type is Call and done is not empty)
accounts not called this month => Accounts where there are no activities where (type is Call and done is in this month)
leads called last week => Leads where there are activities where (type is Call and done is in last week)
leads called by Nora last week => Leads where there are activities where (type is Call and done by is Nora Fairlough and done is in last week)
leads not called => Leads where there are no activities where (type is Call and done is not empty)
contacts called Jones => Contacts where name contains “Jones”
accounts not called Harbour => Accounts where none of (name contains “Harbour”)
contacts not met this year => Contacts where there are no activities where (type is Meeting and done is in this fiscal year)
leads not yet contacted => Leads where first touched is empty
leads that have been contacted => Leads where first touched is not empty
contacts contacted this month => Contacts where last touch is in this month
accounts not contacted in 60 days => Accounts where none of (last touch is in the last 60 days)
people at Seagrave Harbour Trust => Contacts where account’s name contains “Seagrave Harbour Trust”
accounts in Milton Keynes => Accounts where town contains “Milton Keynes”
contacts at accounts in Norway => Contacts where account’s country is Norway
deals without a decision maker => Deals where named who decides is no
deals with a decision maker closing this month => Deals where named who decides is yes and close date is in this month
latest won deals => Deals where outcome is Won, in order of closed on latest first
last 20 leads => All leads, in order of created latest first, the first 20
first 20 leads => All leads, the first 20
most recent activities => All activities, in order of created latest first
what did Nora do yesterday => Activities where done is not empty and done by is Nora Fairlough and done is in yesterday
what do I have to do today => Activities where done is empty and who is me and due is in today
what is due this week => Activities where done is empty and due is in this week
what did we win last week => Deals where outcome is Won and closed on is in last week
what closed last month => Deals where closed on is in last month
how much have we sold to Norway this year => Deals where outcome is Won and account’s country is Norway and closed on is in this fiscal year, showing sum of value
how many calls did I make today => Activities where type is Call and who is me and done is in today, showing number of activities
how many meetings did Nora hold last month => Activities where type is Meeting and who is Nora Fairlough and done is in last month, showing number of activities
tasks I finished yesterday => Activities where type is Task and who is me and done is in yesterday
tasks I have to do this week => Activities where type is Task and who is me and done is empty and due is in this week
deals I won this year => Deals where owner is me and outcome is Won and closed on is in this fiscal year
how many deals did I win this quarter => Deals where owner is me and outcome is Won and closed on is in this fiscal quarter, showing number of deals
deals that I do not own => Deals where owner is none of me
deals I don’t own => Deals where owner is none of me
can I see my open deals => Deals where outcome is Open and owner is me
I want all deals closing this month => Deals where close date is in this month
which deals do I have in Survey booked => Deals where owner is me and stage is Survey booked
do I have overdue tasks => Activities where type is Task and done is empty and due is before today and who is me
meetings I have tomorrow => Activities where type is Meeting and who is me and due is in tomorrow
emails I sent yesterday => Emails where owner is me and direction is Sent and sent is in yesterday
accounts I own without an open deal => Accounts where owner is me and (there are no deals where outcome is Open)
leads I got this week => Leads where owner is me and created is in this week
deals in EUR => Deals where currency is EUR
meetings by weekday => Activities where type is Meeting, grouped by weekday of done
calls by hour of the day => Activities where type is Call, grouped by hour of done
deals closing by the end of the month => Deals where close date is on or before 30 Nov 2026
deals closing before the end of the quarter => Deals where close date is on or before 31 Dec 2026
deals closing by the end of March => Deals where close date is on or before 31 Mar 2027
deals in stage over 60 days => Deals where days in stage is above 60
deals with value 25000 => Deals where value is £25,000
deals that went back a stage => Deals where there are stays in stages where came there is By going back
deals that never went back a stage => Deals where there are no stays in stages where came there is By going back
deals that skipped a stage this year => Deals where there are stays in stages where (came there is By skipping a stage and entered is in this fiscal year)
notes about pricing => Notes where note contains “pricing”
contacts without phone or email => Contacts where phone is empty and email is empty
contacts without phone and in Norway => Contacts where phone is empty and country is Norway
leads without an email and with a phone => Leads where email is empty and phone is not empty
tasks without a due date => Activities where type is Task and due is empty
how many open leads does Davin have => Leads where status is none of Converted or Disqualified and owner is Davin Marchbank, showing number of leads
open leads by owner => Leads where status is none of Converted or Disqualified, grouped by owner
top customers by revenue => Deals where outcome is Won, grouped by account, showing sum of value, the first 10 by sum of value
top 3 reps by won value this quarter => Deals where outcome is Won and closed on is in this fiscal quarter, grouped by owner, showing sum of value, the first 3 by sum of value
deals expected to close in Q1 by team => Deals where close date is between 1 Apr 2027 and 30 Jun 2027, grouped by owner’s team
deals won in Q4 => Deals where outcome is Won and closed on is between 1 Jan 2026 and 31 Mar 2026
deals won in Q2 => Deals where outcome is Won and closed on is between 1 Jul 2026 and 30 Sept 2026
deals at risk => Deals where needs attention is yes
leads from last week not yet touched => Leads where created is in last week and first touched is empty
accounts not touched since June => Accounts where none of (last touch is on or after 1 Jun 2026)
untouched leads older than a week => Leads where status is Untouched and age in days is above 7
deals Nora lost to price => Deals where owner is Nora Fairlough and outcome is Lost and lost because is Price
accounts in Norway with a deal lost last year => Accounts where country is Norway and (there are deals where (outcome is Lost and closed on is in last fiscal year))
leads tagged fair and not tagged old => Leads where tags is “fair” and tags is none of “old”
`;

/** Each of them by itself: what is typed, and what is meant. */
export const eachPhrasing: readonly (readonly [typed: string, meant: string])[] = phrasings
  .split('\n')
  .filter((line) => line.includes(' => '))
  .map((line) => line.split(' => ') as [string, string]);
